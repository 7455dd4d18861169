package dev.nachlauf.service.run;

import dev.nachlauf.core.run.LedgerWrites;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A run that has ended, or is held after its first rows, for those who read what it has written.
 *
 * @param sensitive the fields of each write whose values are kept from those who look
 */
public record WrittenRun(
        long id,
        String job,
        int jobVersion,
        String mode,
        String environment,
        @Nullable Long undoes,
        String by,
        Instant at,
        LedgerWrites writes,
        List<Set<String>> sensitive) {}
