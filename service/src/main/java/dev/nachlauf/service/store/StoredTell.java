package dev.nachlauf.service.store;

import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.Occasion;
import dev.nachlauf.core.job.Placed;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Whom a run tells what has become of it, as it is kept.
 *
 * @param by the connection
 * @param to the receivers; empty where the connection knows them
 * @param when the words of the occasions
 */
public record StoredTell(String by, List<String> to, List<String> when) {
    /** What a job says, with its parameters filled in. */
    public static List<StoredTell> of(JobDefinition job, Map<String, @Nullable Object> parameters) {
        return job.tells().stream()
                .map(tell -> new StoredTell(
                        JobDefinition.fill(tell.by().value(), parameters),
                        tell.to().stream().map(Placed::value).toList(),
                        tell.when().stream().sorted().map(Occasion::word).toList()))
                .toList();
    }
}
