package dev.nachlauf.service.run;

import jakarta.persistence.EntityManager;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Begins runs: whichever way somebody asks for one, at most one run of a job is under way in an environment. */
@Component
class NewRuns {
    private final RunRepository runs;
    private final RunTransitions transitions;
    private final EntityManager entities;
    private final TransactionTemplate transactions;

    NewRuns(RunRepository runs, RunTransitions transitions, EntityManager entities, TransactionTemplate transactions) {
        this.runs = runs;
        this.transitions = transitions;
        this.entities = entities;
        this.transactions = transactions;
    }

    /** What else belongs to the beginning of a run that has its number now, in the same transaction. */
    interface Beginning {
        /** The result says who asks for it, and for what. */
        String of(long run);
    }

    /**
     * Gives a run its number and has it carried out.
     *
     * @throws dev.nachlauf.core.problem.CannotGoOn where another run is in its way
     */
    RunEntity begin(RunEntity run, Beginning beginning) {
        Runs.refuseOverlap(runs, run);
        try {
            transactions.executeWithoutResult(status -> {
                run.id = transitions.nextNumber();
                entities.persist(run);
                // the repository tells which rule was broken in words that are understood below
                runs.flush();
                transitions.started(run.id, beginning.of(run.id));
            });
            return run;
        } catch (DataIntegrityViolationException e) {
            throw Runs.blocked(run.jobName, "Another run of it was started in the same moment.");
        }
    }
}
