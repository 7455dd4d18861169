package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What came of reaching a system.
 *
 * @param canWrite null where only a delivery shows it
 * @param problems empty where it was reached
 */
public record ConnectionTest(
        boolean reachable,
        String system,
        String signedInAs,
        boolean canRead,
        @Nullable Boolean canWrite,
        List<ProblemView> problems) {}
