package dev.nachlauf.core.drift;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.drift.RunTraits.Changes;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import java.util.List;
import java.util.Set;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DriftTest {
    private static final Changes USUAL = new Changes(240, 4, 12);

    private static RunTraits run(long rows, Changes changes, ColumnTraits... columns) {
        return new RunTraits(rows, List.of(columns), changes);
    }

    private static List<String> told(List<Problem> problems) {
        return problems.stream().map(Problem::sentence).toList();
    }

    /** The traits of a column over 60 rows. */
    private static ColumnTraits column(Reading reading, IntFunction<@Nullable Object> cell) {
        List<SourceRow> rows = IntStream.range(0, 60)
                .mapToObj(n -> new SourceRow(n + 1, Origin.line("huts.csv", n + 2), new Object[] {cell.apply(n)}))
                .toList();
        return ColumnTraits.of(List.of(new SourceColumn(new SourceField("c", ""), reading, "")), rows)
                .getFirst();
    }

    private static List<String> compared(ColumnTraits now, ColumnTraits... before) {
        List<RunTraits> runs =
                List.of(before).stream().map(column -> run(60, USUAL, column)).toList();
        return told(new Drift(runs).values(List.of(now), Set.of()));
    }

    @ParameterizedTest
    @CsvSource({"119, true", "120, false", "240, false", "500, false", "501, true"})
    void aCountThatIsFarOffIsTold(long rows, boolean told) {
        Drift drift = new Drift(List.of(run(240, USUAL), run(250, USUAL)));
        assertThat(drift.rows(rows).isPresent()).isEqualTo(told);
    }

    @Test
    void aCountIsToldWithThoseBefore() {
        Drift drift = new Drift(List.of(run(240, USUAL), run(250, USUAL)));
        assertThat(drift.rows(1).orElseThrow().sentence())
                .isEqualTo("The source has 1 row; the last 2 runs had 240 to 250.");
        assertThat(new Drift(List.of(run(7, USUAL))).rows(90))
                .as("few rows say nothing of how many there will be")
                .isPresent();
        assertThat(new Drift(List.of(run(3, USUAL))).rows(1)).isEmpty();
        assertThat(new Drift(List.of()).rows(1)).isEmpty();
    }

    @Test
    void aShareOfChangesThatIsFarOffIsTold() {
        Drift drift = new Drift(List.of(run(240, USUAL), run(240, new Changes(240, 0, 24))));
        assertThat(told(drift.changes(new Changes(240, 0, 96)))).isEmpty();
        assertThat(told(drift.changes(new Changes(240, 0, 97))))
                .containsExactly("97 of 240 rows change records, 40 %; in the last 2 runs at most 10 % did.");
        assertThat(told(drift.changes(new Changes(240, 240, 0))))
                .containsExactly("240 of 240 rows make new records, 100 %; in the last 2 runs at most 2 % did.");
        assertThat(new Drift(List.of(run(240, USUAL))).changes(new Changes(240, 240, 0)))
                .as("one run doesn't say what is ordinary")
                .isEmpty();
    }

    @Test
    void blanksAreToldWhereThereWereNone() {
        ColumnTraits full = column(Reading.TEXT, n -> "x");
        assertThat(compared(column(Reading.TEXT, n -> n < 2 ? null : "x"), full))
                .isEmpty();
        assertThat(compared(column(Reading.TEXT, n -> n < 3 ? " " : "x"), full, full))
                .containsExactly("The column is empty in 3 of 60 rows; in the last 2 runs it never was.");
        ColumnTraits half = column(Reading.TEXT, n -> n % 2 == 0 ? null : "x");
        assertThat(compared(column(Reading.TEXT, n -> n < 48 ? null : "x"), half))
                .isEmpty();
        assertThat(compared(column(Reading.TEXT, n -> n < 49 ? null : "x"), half))
                .containsExactly("The column is empty in 49 of 60 rows; in the last run it was in at most 50 %.");
    }

    @ParameterizedTest
    @CsvSource({
        "100, 'about 100 times those of the last run: typically 2350, before 23.5'",
        "10, 'about 10 times those of the last run: typically 235, before 23.5'",
        "0.001, 'about a thousandth of those of the last run: typically 0.0235, before 23.5'",
        "2, ''",
        "1, ''"
    })
    void numbersThatHaveMovedByAPowerOfTenAreTold(double factor, String text) {
        Reading german = new Reading(Kind.DECIMAL, null, "de");
        ColumnTraits usual = column(german, n -> "2" + n % 8 + ",5");
        ColumnTraits now = new ColumnTraits("c", 60, 0, usual.typical() * factor, 0, 0);
        assertThat(usual.typical()).isEqualTo(23.5);
        assertThat(compared(now, usual))
                .isEqualTo(text.isEmpty() ? List.of() : List.of("The numbers are " + text + "."));
    }

    @Test
    void figuresOfSensitiveColumnsAreNotTold() {
        ColumnTraits usual = new ColumnTraits("c", 60, 0, 24.5, 0, 0);
        ColumnTraits now = new ColumnTraits("c", 60, 0, 2450.0, 0, 0);
        Drift drift = new Drift(List.of(run(60, USUAL, usual)));
        assertThat(told(drift.values(List.of(now), Set.of("c"))))
                .containsExactly("The numbers are about 100 times those of the last run.");
    }

    @Test
    void daysAndMonthsThatHaveBeenSwappedAreTold() {
        Reading german = new Reading(Kind.DATE, "dd.MM.yyyy", null);
        ColumnTraits usual = column(german, n -> "%02d.%02d.2026".formatted(n % 28 + 1, n % 12 + 1));
        ColumnTraits swapped = column(german, n -> "%02d.%02d.2026".formatted(n % 12 + 1, n % 28 + 1));
        assertThat(compared(swapped, usual))
                .containsExactly("None of 28 dates lies behind the 12th of its month; in the last run 53 % did.");
        assertThat(compared(usual, usual)).isEmpty();
    }

    @Test
    void columnsAreLostNewOrRenamed() {
        List<String> before = List.of("code", "name", "beds", "price");
        assertThat(told(new ColumnDrift(before, List.of("code", "name", "capacity", "price")).problems("huts.csv")))
                .containsExactly(
                        "Earlier runs had the column beds, and huts.csv has not; capacity may be its new name.");
        assertThat(told(new ColumnDrift(before, List.of("name", "code", "prise", "area", "town")).problems("huts.csv")))
                .containsExactly(
                        "Earlier runs had the column price, and huts.csv has not; prise may be its new name.",
                        "Earlier runs had the column beds, and huts.csv has not.",
                        "huts.csv has the columns area, town, and earlier runs had not.");
        assertThat(new ColumnDrift(before, List.of("price", "beds", "name", "code")).problems("huts.csv"))
                .isEmpty();
    }
}
