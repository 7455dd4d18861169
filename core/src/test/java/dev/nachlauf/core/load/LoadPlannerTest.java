package dev.nachlauf.core.load;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Scope;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobDefinition.Action;
import dev.nachlauf.core.job.JobDefinition.WriteRule;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Output;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ChangeSet.Kind;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.StoredRecord;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class LoadPlannerTest {
    private static final Cells CELLS =
            new Cells(Collections.nCopies(3, CellCodec.ANY), List.of(0), List.of(CellCodec.ANY), CellCodec.ANY);

    /** The records that a row finds; each is its values, of which the first is its id too. */
    private record Found(Object[]... records) {}

    private static final Found NOTHING = new Found();

    private static Found record(Object... values) {
        return new Found(values);
    }

    private static Object[] row(Object... values) {
        return values;
    }

    /** What was decided, and why rows can't be written. */
    private record Decided(ChangeSet changes, Map<Integer, Problem> problems) {
        Kind kind(int row) {
            return changes.kind(row);
        }

        Change.Update update() {
            return (Change.Update) changes.change(0);
        }

        ProblemCode code(int row) {
            return problems.get(row).code();
        }
    }

    private static Decided plan(PlannedWrite write, List<Object[]> rows, Found... found) {
        RowBlock.Builder block = new RowBlock.Builder(3, rows.size());
        for (Object[] row : rows) {
            for (int field = 0; field < 3; field++) {
                block.add(field < row.length ? row[field] : null, CellCodec.ANY);
            }
        }
        ChangeSet changes = new ChangeSet(CELLS, block.build());
        LoadPlanner planner = new LoadPlanner(write, changes);
        int[] all = IntStream.range(0, rows.size()).toArray();
        planner.begin(all);
        StoredRecord record = new StoredRecord(CELLS);
        for (int row : all) {
            for (Object[] values : found[row].records()) {
                planner.take(row, record.over(spelled(values), 0));
            }
        }
        return new Decided(changes, planner.finish(all, row -> row + 1));
    }

    private static byte[] spelled(Object[] values) {
        ByteSink out = new ByteSink(64);
        CellCodec.ANY.write(7L, out);
        CellCodec.ANY.write(values[0], out);
        for (int field = 0; field < 3; field++) {
            CellCodec.ANY.write(field < values.length ? values[field] : null, out);
        }
        return out.toArray();
    }

    private static Decided plan(PlannedWrite write, Object[] row, Found found) {
        return plan(write, List.<Object[]>of(row), found);
    }

    private static final PlannedWrite WRITE = write(WriteRule.ALWAYS, false);

    /** A write of code, beds and phone; the rule is that of the phone. */
    private static PlannedWrite write(WriteRule rule, boolean leaveBlank) {
        List<Output> fields = List.of(
                output("hut_code", dev.nachlauf.core.value.Kind.TEXT, WriteRule.ALWAYS, false),
                output("beds", dev.nachlauf.core.value.Kind.INTEGER, WriteRule.ALWAYS, false),
                output("phone", dev.nachlauf.core.value.Kind.TEXT, rule, leaveBlank));
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
                false,
                Optional.empty(),
                Optional.empty(),
                List.of(),
                false,
                JobDefinition.Turn.ALONE);
    }

    private static Output output(String name, dev.nachlauf.core.value.Kind kind, WriteRule rule, boolean leaveBlank) {
        Formula nothing = Formula.check(FormulaSource.of("null"), Scope.of(new Shape(List.of())), new ArrayList<>())
                .orElseThrow();
        return new Output(FieldDescription.plain(name, kind), new Source.Of(nothing), false, rule, leaveBlank);
    }

    @Test
    void writeRulesSayWhenAStoredFieldMayChange() {
        Object[] row = row("H-001", 8L, "0699");
        Found filled = record("H-001", 8L, "0664");
        Found empty = record("H-001", 8L, null);
        assertThat(plan(write(WriteRule.ALWAYS, false), row, filled).kind(0)).isEqualTo(Kind.UPDATE);
        assertThat(plan(write(WriteRule.ON_INSERT, false), row, filled).kind(0)).isEqualTo(Kind.LEAVE);
        assertThat(plan(write(WriteRule.IF_EMPTY, false), row, filled).kind(0)).isEqualTo(Kind.LEAVE);
        assertThat(plan(write(WriteRule.IF_EMPTY, false), row, empty).kind(0)).isEqualTo(Kind.UPDATE);
        assertThat(plan(write(WriteRule.IF_EMPTY, false), row, record("H-001", 8L, ""))
                        .kind(0))
                .isEqualTo(Kind.UPDATE);
        assertThat(plan(write(WriteRule.ON_INSERT, false), row, NOTHING).kind(0))
                .isEqualTo(Kind.INSERT);
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
                false,
                Optional.empty(),
                Optional.empty(),
                List.of(),
                false,
                JobDefinition.Turn.ALONE);
        Decided decided = plan(update, row("H-001", 8L, null), NOTHING);
        assertThat(decided.code(0)).isEqualTo(ProblemCode.NOT_FOUND);
        assertThat(decided.kind(0)).isEqualTo(Kind.NONE);
    }

    @Test
    void aBlankIsLeftWhereTheMapSaysSo() {
        Object[] blank = row("H-001", 8L, null);
        Found filled = record("H-001", 8L, "0664");
        assertThat(plan(write(WriteRule.ALWAYS, true), blank, filled).kind(0)).isEqualTo(Kind.LEAVE);
        assertThat(plan(write(WriteRule.ALWAYS, false), blank, filled).kind(0)).isEqualTo(Kind.UPDATE);
    }

    @Test
    void whatIsNotToBeWrittenStaysAsItStands() {
        Change.Update update = plan(
                        write(WriteRule.ON_INSERT, false), row("H-001", 12L, "0699"), record("H-001", 8L, "0664"))
                .update();
        assertThat(update.changed().stream()).containsExactly(1);
        assertThat(update.after()).containsExactly("H-001", 12L, "0664");
    }

    @Test
    void insertsWhatIsNotFoundAndLeavesWhatIsEqual() {
        Decided decided = plan(
                WRITE, List.of(row("H-001", 8L), row("H-002", new BigDecimal("8.0"))), NOTHING, record("H-002", 8L));
        assertThat(decided.kind(0)).isEqualTo(Kind.INSERT);
        assertThat(decided.kind(1)).isEqualTo(Kind.LEAVE);
        assertThat(decided.changes().id(1)).isEqualTo("H-002");
        assertThat(decided.problems()).isEmpty();
    }

    @Test
    void writesOnlyWhatDiffersAndKeepsWhatWas() {
        Change.Update update = plan(WRITE, row("H-001", 12L, null), record("H-001", 8L, "0664"))
                .update();
        assertThat(update.changed().stream()).containsExactly(1, 2);
        assertThat(update.before()).containsExactly("H-001", 8L, "0664");
        assertThat(update.after()).containsExactly("H-001", 12L, null);
        assertThat(update.mark()).isEqualTo(7L);
    }

    @Test
    void rejectsAKeyThatFindsSeveral() {
        Decided decided = plan(WRITE, row("H-001"), new Found(row("H-001"), row("H-009")));
        assertThat(decided.code(0)).isEqualTo(ProblemCode.KEY_AMBIGUOUS);
        assertThat(decided.kind(0)).isEqualTo(Kind.NONE);
    }

    @Test
    void rejectsTwoRowsThatMeanOneRecord() {
        Found same = record("H-001", 8L);
        Decided decided = plan(WRITE, List.of(row("H-001", 8L), row("h-001", 8L)), same, same);
        assertThat(decided.problems().values())
                .extracting(Problem::code)
                .containsExactly(ProblemCode.KEY_REPEATED, ProblemCode.KEY_REPEATED);
        assertThat(decided.problems().get(0).sentence()).contains("stands in row 2 too");
        assertThat(decided.kind(0)).isEqualTo(Kind.NONE);
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
