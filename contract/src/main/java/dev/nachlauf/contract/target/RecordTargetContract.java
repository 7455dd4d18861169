package dev.nachlauf.contract.target;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.Target.Settlement;
import dev.nachlauf.core.system.Target.Unit;
import java.util.List;
import org.junit.jupiter.api.Test;

/**
 * What every target does that takes record by record: what is answered stands, whatever becomes of the unit, and a change
 * is only done where the record is as it was found.
 */
public abstract class RecordTargetContract extends TargetContract {
    @Test
    void saysThatItIsOfThisKind() {
        assertThat(target.traits().atomic()).isFalse();
        assertThat(target.traits().batchRows()).isBetween(1, 500);
    }

    @Test
    void whatIsAnsweredStandsWithoutACommit() {
        try (Unit unit = target.begin(UNIT)) {
            assertThat(apply(unit, List.of(insert(hut("H-001", 8L))))).allMatch(Answer.Done.class::isInstance);
        }
        assertThat(count()).isEqualTo(1);
        assertThat(find("H-001").record(0).value(2)).isEqualTo(8L);
    }

    @Test
    void doesNotAddWhatSomebodyAddedSince() {
        load(hut("H-001", 8L));
        try (Unit unit = target.begin(UNIT)) {
            List<Answer> answers = apply(unit, List.of(insert(hut("H-001", 9L)), insert(hut("H-002", 9L))));
            assertThat(answers.get(0)).isNotInstanceOf(Answer.Done.class);
            assertThat(answers.get(1)).isInstanceOf(Answer.Done.class);
        }
        assertThat(find("H-001").record(0).value(2)).isEqualTo(8L);
        assertThat(count()).isEqualTo(2);
    }

    @Test
    void saysWhichIdANewRecordGot() {
        try (Unit unit = target.begin(UNIT)) {
            Answer answer = apply(unit, List.of(insert(hut("H-001", 8L)))).getFirst();
            assertThat(((Answer.Done) answer).id())
                    .isEqualTo(find("H-001").record(0).id());
        }
    }

    @Test
    void hasTheTokenBeforeAnythingIsSentAndIsAskedRecordByRecord() {
        Change change = insert(hut("H-001", 8L));
        try (Unit unit = target.begin(UNIT)) {
            assertThat(unit.token().text()).isNotEmpty();
            assertThat(target.settle(unit.token(), ChangeSet.of(target.cells(), List.of(change))))
                    .isInstanceOf(Settlement.PerRecord.class);
        }
    }
}
