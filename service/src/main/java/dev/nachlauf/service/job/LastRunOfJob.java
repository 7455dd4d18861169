package dev.nachlauf.service.job;

import dev.nachlauf.api.RunView;
import java.util.Optional;

/** What a job shows of its runs, which are a later feature and implement it. */
public interface LastRunOfJob {
    /** The newest run of a job. */
    Optional<RunView> of(String job);
}
