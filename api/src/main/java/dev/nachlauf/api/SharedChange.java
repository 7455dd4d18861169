package dev.nachlauf.api;

import java.util.List;

/**
 * What a changed crosswalk or document of pieces touches.
 *
 * @param version its newest version
 * @param jobs jobs that use it
 * @param broken those of them that have errors now, with what the check found
 * @param healed open rejects that lacked only what is there now, by id, in order
 */
public record SharedChange(String name, int version, List<String> jobs, List<BrokenJob> broken, List<Long> healed) {
    /** A job that has errors. */
    public record BrokenJob(String job, List<ProblemView> problems) {}
}
