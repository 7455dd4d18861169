package dev.nachlauf.contract.target;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.Rehearses;
import dev.nachlauf.core.system.Target.Settlement;
import dev.nachlauf.core.system.Target.Unit;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What every target with atomic units does: a unit is there whole or not at all, and can be asked after. */
public abstract class AtomicTargetContract extends TargetContract {
    @Test
    void undoesWhatIsNotCommitted() {
        try (Unit unit = target.begin(UNIT)) {
            apply(unit, List.of(insert(hut("H-001", 8L))));
            unit.close();
        }
        assertThat(count()).isZero();
        assertThat(find("H-001").matches(0)).isZero();
    }

    @Test
    void keepsNothingOfARehearsalThoughLaterUnitsFindIt() {
        assumeTrue(target instanceof Rehearses);
        ((Rehearses) target).rehearse();
        try (Unit unit = target.begin(UNIT)) {
            assertThat(apply(unit, List.of(insert(hut("H-001", 8L)))).getFirst())
                    .isInstanceOf(Answer.Done.class);
            unit.commit();
        }
        assertThat(find("H-001").matches(0)).isEqualTo(1);
        try (Unit unit = target.begin(UNIT)) {
            apply(unit, List.of(insert(hut("H-002", 8L))));
        }
        assertThat(find("H-002").matches(0)).isZero();
        assertThat(find("H-001").matches(0)).isEqualTo(1);
        target.close();
        assertThat(count()).isZero();
    }

    @Test
    void settlesACommittedUnitAsCommitted() {
        Unit unit = target.begin(UNIT);
        apply(unit, List.of(insert(hut("H-001", 8L))));
        unit.commit();
        // the ledger knows the id of every record that was written
        Object id = find("H-001").record(0).id();
        Change written = new Change.Insert(id, hut("H-001", 8L));
        assertThat(target.settle(unit.token(), ChangeSet.of(target.cells(), List.of(written))))
                .isInstanceOf(Settlement.Committed.class);
    }

    @Test
    void settlesAnUndoneUnitAsRolledBack() {
        Unit unit = target.begin(UNIT);
        apply(unit, List.of(insert(hut("H-001", 8L))));
        unit.close();
        Settlement settlement =
                target.settle(unit.token(), ChangeSet.of(target.cells(), List.of(insert(hut("H-001", 8L)))));
        assertThat(settlement).isInstanceOf(Settlement.RolledBack.class);
    }
}
