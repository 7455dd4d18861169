package dev.nachlauf.core.load;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Scope;
import dev.nachlauf.core.job.JobDefinition.Action;
import dev.nachlauf.core.job.JobDefinition.WriteRule;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Output;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.step.WriteRow;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.Target.Stored;
import dev.nachlauf.core.system.Target.StoredRecord;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
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

    private static WriteRow row(long number, Object... values) {
        return new WriteRow(number, number, number, values, new Object[] {values[0]});
    }

    private static final PlannedWrite WRITE = write(WriteRule.ALWAYS, false);

    /** A write of code, beds and phone; the rule is that of the phone. */
    private static PlannedWrite write(WriteRule rule, boolean leaveBlank) {
        List<Output> fields = List.of(
                output("hut_code", Kind.TEXT, WriteRule.ALWAYS, false),
                output("beds", Kind.INTEGER, WriteRule.ALWAYS, false),
                output("phone", Kind.TEXT, rule, leaveBlank));
        return new PlannedWrite(
                "hut",
                "register",
                Action.UPSERT,
                Huts.description(),
                fields,
                List.of(0),
                true,
                Optional.empty(),
                false,
                List.of(),
                false);
    }

    private static Output output(String name, Kind kind, WriteRule rule, boolean leaveBlank) {
        Formula nothing = Formula.check(FormulaSource.of("null"), Scope.of(new Shape(List.of())), new ArrayList<>())
                .orElseThrow();
        return new Output(FieldDescription.plain(name, kind), new Source.Of(nothing), false, rule, leaveBlank);
    }

    @Test
    void writeRulesSayWhenAStoredFieldMayChange() {
        WriteRow row = row(1, "H-001", 8L, "0699");
        Found filled = new Found(1, "H-001", 8L, "0664");
        Found empty = new Found(1, "H-001", 8L, null);
        assertThat(plan(write(WriteRule.ALWAYS, false), row, filled)).isInstanceOf(Decision.Write.class);
        assertThat(plan(write(WriteRule.ON_INSERT, false), row, filled)).isEqualTo(new Decision.Leave("H-001"));
        assertThat(plan(write(WriteRule.IF_EMPTY, false), row, filled)).isEqualTo(new Decision.Leave("H-001"));
        assertThat(plan(write(WriteRule.IF_EMPTY, false), row, empty)).isInstanceOf(Decision.Write.class);
        assertThat(plan(write(WriteRule.ON_INSERT, false), row, new Found(0))).isInstanceOf(Decision.Write.class);
    }

    @Test
    void anUpdateThatFindsNothingIsRejected() {
        PlannedWrite update = new PlannedWrite(
                "hut",
                "register",
                Action.UPDATE,
                Huts.description(),
                WRITE.fields(),
                List.of(0),
                true,
                Optional.empty(),
                false,
                List.of(),
                false);
        assertThat(code(plan(update, row(1, "H-001", 8L, null), new Found(0)))).isEqualTo(ProblemCode.NOT_FOUND);
    }

    @Test
    void aBlankIsLeftWhereTheMapSaysSo() {
        WriteRow blank = row(1, "H-001", 8L, null);
        Found filled = new Found(1, "H-001", 8L, "0664");
        assertThat(plan(write(WriteRule.ALWAYS, true), blank, filled)).isEqualTo(new Decision.Leave("H-001"));
        Decision cleared = plan(write(WriteRule.ALWAYS, false), blank, filled);
        assertThat(((Decision.Write) cleared).change()).isInstanceOf(Change.Update.class);
    }

    @Test
    void whatIsNotToBeWrittenIsSentAsItStands() {
        WriteRow row = row(1, "H-001", 12L, "0699");
        Decision decision = plan(write(WriteRule.ON_INSERT, false), row, new Found(1, "H-001", 8L, "0664"));
        Change.Update update = (Change.Update) ((Decision.Write) decision).change();
        assertThat(update.changed().stream()).containsExactly(1);
        assertThat(update.after()).containsExactly("H-001", 12L, "0664");
    }

    private static Decision plan(PlannedWrite write, WriteRow row, Found found) {
        return LoadPlanner.plan(write, List.of(row), stored(found)).getFirst();
    }

    @Test
    void insertsWhatIsNotFoundAndLeavesWhatIsEqual() {
        List<Decision> decisions = LoadPlanner.plan(
                WRITE,
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
                        WRITE, List.of(row(1, "H-001", 12L, null)), stored(new Found(1, "H-001", 8L, "0664")))
                .getFirst();
        Change.Update update = (Change.Update) ((Decision.Write) decision).change();
        assertThat(update.changed().stream()).containsExactly(1, 2);
        assertThat(update.before()).containsExactly(null, 8L, "0664");
        assertThat(update.after()).containsExactly("H-001", 12L, null);
        assertThat(update.mark()).isEqualTo(7);
    }

    @Test
    void rejectsAKeyThatFindsSeveral() {
        assertThat(code(LoadPlanner.plan(WRITE, List.of(row(1, "H-001")), stored(new Found(2)))
                        .getFirst()))
                .isEqualTo(ProblemCode.KEY_AMBIGUOUS);
    }

    @Test
    void rejectsTwoRowsThatMeanOneRecord() {
        Found same = new Found(1, "H-001", 8L);
        List<Decision> decisions =
                LoadPlanner.plan(WRITE, List.of(row(1, "H-001", 8L), row(2, "h-001", 8L)), stored(same, same));
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
