package dev.nachlauf.service.connection;

import dev.nachlauf.core.system.ConnectsAhead;
import dev.nachlauf.core.system.HoldsRecords;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.service.environment.ChosenEnvironment;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import org.jspecify.annotations.Nullable;

/**
 * The systems behind connections, each opened once, when it is first asked for: whoever asks later finds it connected, or
 * hears why it can't be, and finds its record types described. For work that belongs together, such as one attempt of a run;
 * never kept longer, for connections can be saved anew, and record types change. To be closed.
 */
public final class OpenedSystems implements AutoCloseable {
    private final Connections connections;
    /** Systems are opened when they are needed, perhaps by another thread. */
    private final @Nullable String environment = ChosenEnvironment.name().orElse(null);

    private final Map<String, FutureTask<Optional<OpenSystem>>> open = new ConcurrentHashMap<>();
    private final Map<Records, Optional<RecordDescription>> described = new ConcurrentHashMap<>();

    /** A record type of a system. */
    private record Records(HoldsRecords system, String name) {}

    public OpenedSystems(Connections connections) {
        this.connections = connections;
    }

    /**
     * Begins to open a system, and to connect to it, beside what else is done. What goes wrong is heard by whoever asks for
     * the system.
     */
    public void anticipate(String connection) {
        FutureTask<Optional<OpenSystem>> opening = new FutureTask<>(() -> connected(connection));
        if (open.putIfAbsent(connection, opening) == null) {
            Thread.ofVirtual().name("connects-ahead").start(opening);
        }
    }

    /** The system behind a connection, in the environment in which these were begun; empty where there is no such connection. */
    public Optional<OpenSystem> of(String connection) {
        FutureTask<Optional<OpenSystem>> opening =
                open.computeIfAbsent(connection, name -> new FutureTask<>(() -> opened(name)));
        // nothing happens where it is under way or done
        opening.run();
        return system(opening);
    }

    private Optional<OpenSystem> opened(String connection) {
        return ChosenEnvironment.during(environment, () -> connections.open(connection));
    }

    private Optional<OpenSystem> connected(String connection) {
        Optional<OpenSystem> system = opened(connection);
        if (system.orElse(null) instanceof ConnectsAhead ahead) {
            try {
                ahead.connect();
            } catch (RuntimeException e) {
                system.get().close();
                throw e;
            }
        }
        return system;
    }

    private static Optional<OpenSystem> system(FutureTask<Optional<OpenSystem>> opening) {
        try {
            return opening.get();
        } catch (ExecutionException e) {
            if (e.getCause() instanceof RuntimeException known) {
                throw known;
            }
            throw new IllegalStateException(e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted while a system was opened", e);
        }
    }

    /** What a system says of a record type; empty where it has none of the name. It is asked once. */
    public Optional<RecordDescription> describe(HoldsRecords system, String records) {
        return described.computeIfAbsent(new Records(system, records), any -> system.describe(records));
    }

    @Override
    public void close() {
        open.values().forEach(opening -> left(opening).ifPresent(OpenSystem::close));
        open.clear();
    }

    /** What is to be closed; waited for where it is still being opened. */
    private static Optional<OpenSystem> left(FutureTask<Optional<OpenSystem>> opening) {
        try {
            return system(opening);
        } catch (RuntimeException e) {
            // whoever asked has heard why, and nothing is open
            return Optional.empty();
        }
    }
}
