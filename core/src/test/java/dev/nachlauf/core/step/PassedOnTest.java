package dev.nachlauf.core.step;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Plan.Input;
import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.RowTexts;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.record.TextCell;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Texts that a plan only passes on stay bytes, and nobody can tell. */
class PassedOnTest {
    private static final List<String> NAMES = List.of(
            "Falkenkar Hut",
            "Hütte am Grünsee",
            "",
            "0",
            "nul\0inside",
            "a".repeat(40),
            "a".repeat(41),
            "ä".repeat(40),
            "ä".repeat(41),
            "\uD83C\uDFD4".repeat(40),
            "\uD83C\uDFD4".repeat(41),
            " blanks ");

    private static List<String> passed(Plan plan) {
        BitSet slots = PassedOn.of(plan);
        return plan.inputs().stream()
                .filter(input -> slots.get(input.slot()))
                .map(Input::name)
                .toList();
    }

    @Test
    void onlyWhatIsMappedAsItIs() {
        assertThat(passed(Huts.plan()))
                .as("the code is computed, status is looked at, the others are numbers")
                .containsExactly("name");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            nullValues = "-",
            value = {
                "- where: true                        | 'a: code, b: rest'                   | rest",
                "- where: true                        | 'a: code, b: rest, d: rest'          | rest",
                "- where: true                        | 'a: code, b: upper(rest)'            | -",
                "- where: true                        | 'a: code, b: rest, d: upper(rest)'   | -",
                "- where: true                        | 'a: code, b: rest, c: count'         | rest",
                "- where: true                        | 'a: code, c: rest'                   | -",
                "- where: true                        | 'a: code, b: code'                   | -",
                "- where: rest <> 'x'                 | 'a: code, b: rest'                   | -",
                "- rule: rest <> 'x'                  | 'a: code, b: rest'                   | -",
                "- set: { more: upper(rest) }         | 'a: code, b: rest, d: more'          | -",
            })
    void whatSomethingLooksAtIsNot(String steps, String map, @Nullable String expected) {
        Plan plan = Flows.plan("code;count;rest", steps, map, new ArrayList<>());
        assertThat(passed(plan)).isEqualTo(expected == null ? List.of() : List.of(expected));
    }

    @Test
    void aRowOfBytesBecomesWhatARowOfTextsBecomes() {
        Plan plan = Huts.plan();
        Random random = new Random(5);
        List<SourceRow> texts = new ArrayList<>();
        List<SourceRow> bytes = new ArrayList<>();
        for (int i = 1; i <= 500; i++) {
            String name = NAMES.get(random.nextInt(NAMES.size()));
            @Nullable
            String[] cells = {
                random.nextInt(9) == 0 ? null : " h-" + i,
                name.isEmpty() ? null : name,
                random.nextInt(9) == 0 ? "many" : "" + i % 200,
                "24,50",
                random.nextInt(9) == 0 ? "closed" : null
            };
            texts.add(new SourceRow(i, Origin.line("huts.csv", i + 1), cells));
            bytes.add(new SourceRow(i, Origin.line("huts.csv", i + 1), RowTexts.of(cells)));
        }
        List<TargetRow> expected = mapped(plan, texts);
        List<TargetRow> found = mapped(plan, bytes);
        assertThat(found).hasSize(500);
        assertThat(found.stream().filter(row -> row.passed() && row.write(0).values()[1] instanceof TextCell))
                .hasSizeGreaterThan(100);
        for (int i = 0; i < found.size(); i++) {
            assertThat(found.get(i).problems()).isEqualTo(expected.get(i).problems());
            assertThat(found.get(i).skipped()).isEqualTo(expected.get(i).skipped());
            assertThat(found.get(i).key()).isEqualTo(expected.get(i).key());
            assertThat(spelled(found.get(i))).isEqualTo(spelled(expected.get(i)));
        }
    }

    private static List<TargetRow> mapped(Plan plan, List<SourceRow> rows) {
        Mapper mapper = new Mapper(plan);
        List<TargetRow> mapped = new ArrayList<>();
        try (RowFlow flow = Shaping.plain(plan, Flows.reader(rows), () -> {})) {
            for (FlowRow row = flow.next(); row != null; row = flow.next()) {
                mapped.add(mapper.map(row));
            }
        }
        return mapped;
    }

    private static byte[] spelled(TargetRow row) {
        ByteSink out = new ByteSink(64);
        for (Object value : row.passed() ? row.write(0).values() : new Object[0]) {
            CellCodec.ANY.write(value, out);
        }
        return out.toArray();
    }
}
