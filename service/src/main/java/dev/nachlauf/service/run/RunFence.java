package dev.nachlauf.service.run;

import dev.nachlauf.core.run.RunRecords.Fenced;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The first thing in every transaction of a run: is it still ours? */
@Service
public class RunFence {
    private final RunTransitions transitions;
    private final RunFacts facts;

    RunFence(RunTransitions transitions, RunFacts facts) {
        this.transitions = transitions;
        this.facts = facts;
    }

    /**
     * Locks the run for the transaction under way.
     *
     * @throws Fenced where another process has taken the run over, or nobody may carry it on any more
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void hold(long run, long epoch) {
        if (!transitions.hold(run, epoch)) {
            throw new Fenced();
        }
    }

    /** The run has got on: what it may wait for a target begins anew. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void moved(long run, long epoch) {
        facts.note(run, epoch, RunFacts.Fact.UNREACHABLE_SINCE, null);
    }
}
