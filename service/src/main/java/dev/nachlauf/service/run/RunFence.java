package dev.nachlauf.service.run;

import dev.nachlauf.core.run.RunRecords.Fenced;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The first thing in every transaction of a run: is it still ours? */
@Service
public class RunFence {
    private final RunRepository runs;

    RunFence(RunRepository runs) {
        this.runs = runs;
    }

    /**
     * Locks the run for the transaction under way.
     *
     * @throws Fenced where another process has taken the run over
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void hold(long run, long epoch) {
        if (runs.fence(run, epoch) == 0) {
            throw new Fenced();
        }
    }
}
