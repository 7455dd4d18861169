package dev.nachlauf.service.job;

import dev.nachlauf.api.RunLine;
import java.util.Collection;
import java.util.Map;

/** What jobs show of their runs, which are a later feature and implement it. */
public interface LastRunOfJob {
    /** The newest run of each job that has run, by the job's name. */
    Map<String, RunLine> of(Collection<String> jobs);
}
