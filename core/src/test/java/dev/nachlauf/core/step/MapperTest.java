package dev.nachlauf.core.step;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceRow;
import java.math.BigDecimal;
import java.util.List;
import org.junit.jupiter.api.Test;

/** One row from its cells to what goes to the target. */
class MapperTest {
    private final Plan plan = Huts.plan();

    private TargetRow row(String... cells) {
        return row(new SourceRow(1, Origin.line("huts.csv", 2), cells));
    }

    private TargetRow row(SourceRow row) {
        return new Mapper(plan).map(flowing(plan, row));
    }

    private static FlowRow flowing(Plan plan, SourceRow row) {
        return Flows.of(plan, List.of(row)).getFirst();
    }

    private byte[] key(Object... cells) {
        Plan reduced = LoadKeys.reduced(plan);
        SourceRow row = new SourceRow(1, Origin.line("huts.csv", 2), cells);
        return new LoadKeys(reduced).key(flowing(reduced, row), 0);
    }

    private static List<ProblemCode> codes(TargetRow row) {
        return row.problems().stream().map(Problem::code).toList();
    }

    @Test
    void readsStepsAndMaps() {
        TargetRow row = row(" h-017", "Falkenkar Hut", "24", "24,50", null);
        assertThat(row.passed()).isTrue();
        assertThat(row.write(0).values()).containsExactly("H-017", "Falkenkar Hut", 24L, new BigDecimal("24.50"));
        assertThat(row.key()).containsExactly("H-017");
    }

    @Test
    void skipsWhatIsNotWantedEvenIfOtherThingsAreWrong() {
        TargetRow row = row("h-017", "Falkenkar Hut", "many", "24,50", "closed");
        assertThat(row.skipped()).isEqualTo("filtered");
        assertThat(row.problems()).isEmpty();
    }

    @Test
    void findsAllProblemsOfARowAtOnceWithoutEchoes() {
        TargetRow row = row("h-017", "A name that is far too long for the field", "many", "24.5", null);
        assertThat(codes(row))
                .containsExactly(ProblemCode.VALUE_MALFORMED, ProblemCode.VALUE_MALFORMED, ProblemCode.TOO_LONG);
        assertThat(row.problems().getFirst().place())
                .isEqualTo(new Place.InField("beds", "many", "huts.csv, line 2, field 3"));
    }

    @Test
    void aRuleFailsOnFalseOnly() {
        assertThat(codes(row("h-017", "Falkenkar Hut", "201", null, null))).containsExactly(ProblemCode.RULE_FAILED);
        assertThat(codes(row("h-017", "Falkenkar Hut", null, null, null))).isEmpty();
    }

    @Test
    void checksWhatTheTargetDemands() {
        assertThat(codes(row("h-017", null, "24", null, null))).containsExactly(ProblemCode.REQUIRED_EMPTY);
        assertThat(codes(row("h-017", "Fal\0ken", "24", null, null)))
                .containsExactly(ProblemCode.CHARACTER_NOT_ALLOWED);
        assertThat(codes(row("h-017", "x", "24", "24,505", null))).containsExactly(ProblemCode.TOO_MANY_DECIMALS);
        assertThat(codes(row("h-017", "x", "24", "24,500", null))).isEmpty();
        assertThat(codes(row("h-017", "x", "24", "123456,00", null))).containsExactly(ProblemCode.OUT_OF_RANGE);
    }

    @Test
    void anEmptyKeyIsSaidOnce() {
        TargetRow row = row("  ", "Falkenkar Hut", "24", null, null);
        assertThat(codes(row)).containsExactly(ProblemCode.KEY_EMPTY);
        assertThat(row.key()).isNull();
    }

    @Test
    void whatTheReaderFoundWrongRejectsTheRow() {
        Problem ragged = Problem.of(ProblemCode.ROW_RAGGED, "The row has 2 fields.", "");
        TargetRow row = row(new SourceRow(1, Origin.line("huts.csv", 2), new Object[] {"a", "b"}, List.of(ragged)));
        assertThat(codes(row)).containsExactly(ProblemCode.ROW_RAGGED);
    }

    @Test
    void theKeyAloneIsComputedAsInTheWholeRow() {
        assertThat(key(" h-017", null, "many", null, null))
                .isEqualTo("H-017".getBytes(java.nio.charset.StandardCharsets.UTF_8));
        assertThat(key(" h-017", null, "1", null, "closed")).isNull();
        assertThat(key(null, "x", "1", null, null)).isNull();
    }
}
