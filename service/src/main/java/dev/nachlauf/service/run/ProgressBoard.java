package dev.nachlauf.service.run;

import dev.nachlauf.core.load.Counts;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/** How far the runs of this process are; what is not here is asked from the database. */
@Component
class ProgressBoard {
    private final Map<Long, Progress> runs = new ConcurrentHashMap<>();

    /** The state of a run under way; {@code rows} is 0 until the survey is done. */
    record Progress(String phase, long surveyed, long rows, Counts counts) {}

    void put(long run, Progress progress) {
        runs.put(run, progress);
    }

    void remove(long run) {
        runs.remove(run);
    }

    Optional<Progress> find(long run) {
        return Optional.ofNullable(runs.get(run));
    }
}
