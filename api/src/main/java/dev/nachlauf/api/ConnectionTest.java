package dev.nachlauf.api;

import java.util.List;

/** What came of reaching a system. {@code problems} is empty where it was reached. */
public record ConnectionTest(
        boolean reachable,
        String system,
        String signedInAs,
        boolean canRead,
        boolean canWrite,
        List<ProblemView> problems) {}
