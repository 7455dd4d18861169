package dev.nachlauf.service.job;

import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobDefinition.From;
import dev.nachlauf.core.system.ReadsRecords.Condition;
import dev.nachlauf.core.system.ReadsRecords.RecordQuery;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Which records of a system a job reads. */
public final class JobRecords {
    private JobRecords() {}

    /** The keys whose records alone are read; empty where all are. */
    public static List<Object> chosenKeys(JobDefinition job, Map<String, @Nullable Object> parameters) {
        Object given = job.read()
                .keys()
                .map(keys -> parameters.get(keys.parameter().value()))
                .orElse(null);
        return given instanceof List<?> list ? List.copyOf(list) : given == null ? List.of() : List.of(given);
    }

    static String name(JobDefinition job, Map<String, @Nullable Object> parameters) {
        String connection = JobDefinition.fill(job.read().connection().value(), parameters);
        return job.read().from() instanceof From.Records records
                ? connection + " " + JobDefinition.fill(records.text().value(), parameters)
                : connection + " query";
    }

    /** Parameters are bound to a query, never pasted into it. */
    static RecordQuery query(JobDefinition job, Map<String, @Nullable Object> parameters, @Nullable Object seen) {
        return switch (job.read().from()) {
            case From.Records records -> {
                List<Condition> conditions = new ArrayList<>();
                if (seen != null) {
                    job.read()
                            .changedSince()
                            .ifPresent(changed -> conditions.add(
                                    new Condition.AtLeast(changed.field().value(), earlier(seen, changed.overlap()))));
                }
                List<Object> chosen = chosenKeys(job, parameters);
                job.read()
                        .keys()
                        .filter(keys -> !chosen.isEmpty())
                        .ifPresent(keys ->
                                conditions.add(new Condition.Among(keys.field().value(), chosen)));
                yield new RecordQuery.Records(
                        JobDefinition.fill(records.text().value(), parameters), List.of(), conditions);
            }
            case From.Query query -> new RecordQuery.Statement(query.text().value(), parameters);
            case From.File ignored -> throw new IllegalArgumentException("files are fetched");
            case From.Upload ignored -> throw new IllegalArgumentException("the file is given");
        };
    }

    /** Where reading begins again: a number has no time by which it could overlap. */
    private static Object earlier(Object seen, Duration overlap) {
        return switch (seen) {
            case LocalDateTime moment -> moment.minus(overlap);
            // a day that has begun counts whole
            case LocalDate day -> day.atStartOfDay().minus(overlap).toLocalDate();
            default -> seen;
        };
    }
}
