package dev.nachlauf.core.load;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.Target.Stored;
import dev.nachlauf.core.system.Target.StoredRecord;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.util.List;
import org.junit.jupiter.api.Test;

class LoadPlannerTest {
    private record Found(int matches, Object... values) implements StoredRecord {
        @Override
        public Object id() {
            return values[0];
        }

        @Override
        public Object mark() {
            return 7;
        }

        @Override
        public Object value(int field) {
            return values[field];
        }

        @Override
        public boolean same(int field, Object value) {
            return Values.same(values[field], value);
        }
    }

    private static Stored stored(Found... found) {
        return new Stored() {
            @Override
            public int matches(int key) {
                return found[key].matches();
            }

            @Override
            public StoredRecord record(int key) {
                return found[key];
            }
        };
    }

    private static TargetRow row(long number, Object... values) {
        return new TargetRow(
                new SourceRow(number, Origin.line("huts.csv", number + 1), new Object[0]),
                null,
                values,
                new Object[] {values[0]},
                List.of());
    }

    @Test
    void insertsWhatIsNotFoundAndLeavesWhatIsEqual() {
        List<Decision> decisions = LoadPlanner.plan(
                List.of(row(1, "H-001", 8L), row(2, "H-002", new BigDecimal("8.0"))),
                stored(new Found(0), new Found(1, "H-002", 8L)));
        assertThat(decisions.get(0))
                .isInstanceOfSatisfying(
                        Decision.Write.class,
                        write -> assertThat(write.change()).isInstanceOf(Change.Insert.class));
        assertThat(decisions.get(1)).isEqualTo(new Decision.Leave("H-002"));
    }

    @Test
    void writesOnlyWhatDiffersAndKeepsWhatWas() {
        Decision decision = LoadPlanner.plan(
                        List.of(row(1, "H-001", 12L, null)), stored(new Found(1, "H-001", 8L, "0664")))
                .getFirst();
        Change.Update update = (Change.Update) ((Decision.Write) decision).change();
        assertThat(update.changed().stream()).containsExactly(1, 2);
        assertThat(update.before()).containsExactly(null, 8L, "0664");
        assertThat(update.after()).containsExactly("H-001", 12L, null);
        assertThat(update.mark()).isEqualTo(7);
    }

    @Test
    void rejectsAKeyThatFindsSeveral() {
        assertThat(code(LoadPlanner.plan(List.of(row(1, "H-001")), stored(new Found(2)))
                        .getFirst()))
                .isEqualTo(ProblemCode.KEY_AMBIGUOUS);
    }

    @Test
    void rejectsTwoRowsThatMeanOneRecord() {
        Found same = new Found(1, "H-001", 8L);
        List<Decision> decisions =
                LoadPlanner.plan(List.of(row(1, "H-001", 8L), row(2, "h-001", 8L)), stored(same, same));
        assertThat(decisions).extracting(LoadPlannerTest::code).containsOnly(ProblemCode.KEY_REPEATED);
    }

    private static ProblemCode code(Decision decision) {
        return ((Decision.Reject) decision).problem().code();
    }

    @Test
    void aBalanceHoldsOrSaysWhyNot() {
        Counts counts = new Counts(10, 2, 1, 3, 2, 1, 0, 0, 1, 0);
        assertThat(new Balance(12, counts).gap()).isEmpty();
        assertThat(new Balance(12, counts).unreached()).isEqualTo(2);
        assertThat(new Balance(12, counts).passed()).isEqualTo(7);
        assertThat(new Balance(9, counts).gap()).isPresent();
        assertThat(new Balance(12, counts.plus(new Counts(1, 0, 0, 0, 0, 0, 0, 0, 0, 0))).gap())
                .isPresent();
    }
}
