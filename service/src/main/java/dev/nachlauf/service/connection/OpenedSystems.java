package dev.nachlauf.service.connection;

import dev.nachlauf.core.system.HoldsRecords;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.service.environment.ChosenEnvironment;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;

/**
 * The systems behind connections, each opened once, when it is first asked for: whoever asks later finds it connected, and its
 * record types described. For work that belongs together, such as one attempt of a run; never kept longer, for connections can
 * be saved anew, and record types change. To be closed.
 */
public final class OpenedSystems implements AutoCloseable {
    private final Connections connections;
    /** Systems are opened when they are needed, perhaps by another thread. */
    private final @Nullable String environment = ChosenEnvironment.name().orElse(null);

    private final Map<String, Optional<OpenSystem>> open = new ConcurrentHashMap<>();
    private final Map<Records, Optional<RecordDescription>> described = new ConcurrentHashMap<>();

    /** A record type of a system. */
    private record Records(HoldsRecords system, String name) {}

    public OpenedSystems(Connections connections) {
        this.connections = connections;
    }

    /** The system behind a connection, in the environment in which these were begun; empty where there is no such connection. */
    public Optional<OpenSystem> of(String connection) {
        return open.computeIfAbsent(
                connection, name -> ChosenEnvironment.during(environment, () -> connections.open(name)));
    }

    /** What a system says of a record type; empty where it has none of the name. It is asked once. */
    public Optional<RecordDescription> describe(HoldsRecords system, String records) {
        return described.computeIfAbsent(new Records(system, records), any -> system.describe(records));
    }

    @Override
    public void close() {
        open.values().forEach(system -> system.ifPresent(OpenSystem::close));
        open.clear();
    }
}
