package dev.nachlauf.core.explain;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.formula.Translation;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.source.Rows;
import dev.nachlauf.core.step.Found;
import dev.nachlauf.core.step.MappedRows;
import dev.nachlauf.core.step.RecordFinder;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Values;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A field is followed back to its cells; the way is written as lines, indented by how far it is from the record. */
class ExplainerTest {
    @TempDir
    Path scratch;

    private final Translation sizes = (value, scope) -> "big".equals(value) ? "90" : "9";

    private List<String> way(String steps, String map, String field, int row, String... lines) {
        HeardTranslations heard = new HeardTranslations();
        List<Problem> problems = new ArrayList<>();
        JobDefinition job = JobFile.read(new SourceText("huts.yaml", """
                        nachlauf: 1
                        job: huts
                        read: { connection: inbox, file: huts.csv }
                        steps:
                        %swrite:
                          connection: register
                          records: hut
                          action: upsert
                          key: [hut_code]
                          map:
                            hut_code: code
                            name: name
                            %s
                        """.formatted(steps.indent(2), map)), problems)
                .orElseThrow(() -> new AssertionError(problems));
        Surroundings surroundings = new Surroundings(Map.of(), Map.of(), heard.over(Map.of("sizes", sizes)), Map.of());
        List<String> header = List.of(lines[0].split(";"));
        Plan plan = Planner.plan(job, surroundings, Huts.columns(header), Huts.described(), problems)
                .orElseThrow(() -> new AssertionError(problems));
        RecordFinder finder = (finding, keys) ->
                keys.stream().map(key -> new Found(1, new Object[] {"12"})).toList();
        try (MappedRows rows = MappedRows.of(plan, Rows.of(lines), finder, scratch)) {
            TargetRow found = rows.next();
            for (int i = 1; i < row; i++) {
                found = rows.next();
            }
            int index = plan.main().fieldNames().indexOf(field);
            Object value = found.write(0).values()[index];
            List<String> told = new ArrayList<>();
            tell(new Explainer(plan, heard).field(found.row(), plan.main(), index, value), "", told);
            return told;
        }
    }

    private static void tell(Derivation link, String indent, List<String> told) {
        told.add((indent + link.name() + " = " + Values.text(link.value()) + " " + link.kind() + " " + link.how()
                        + link.place())
                .stripTrailing());
        link.translated().forEach(one -> told.add(indent + " " + one.value() + " is " + one.translation()));
        link.from().forEach(from -> tell(from, indent + " ", told));
    }

    @Test
    void aFieldComesFromItsCellThroughEverySet() {
        assertThat(way(
                        "- set: { clean: trim(size) }\n- set: { size: upper(clean) }",
                        "beds: cast(char_length(size) as integer)",
                        "beds",
                        2,
                        "code;name;size",
                        "H-1;Larch;x",
                        "H-2;Fern; abc "))
                .containsExactly(
                        "beds = 3 MAP cast(char_length(size) as integer)",
                        " size = ABC SET upper(clean)",
                        "  clean = abc SET trim(size)",
                        "   size =  abc  CELL huts.csv, line 3, field 3");
    }

    @Test
    void whatACrosswalkTranslatesIsHeardInTheFormulaThatAsks() {
        assertThat(way(
                        "- set: { size: lower(kind) }",
                        "beds: cast(crosswalk('sizes', size) as integer) + cast(crosswalk('sizes', 'small') as integer)",
                        "beds",
                        1,
                        "code;name;kind",
                        "H-1;Larch;BIG"))
                .containsExactly(
                        "beds = 99 MAP cast(crosswalk('sizes', size) as integer) + cast(crosswalk('sizes', 'small') as integer)",
                        " big is 90",
                        " small is 9",
                        " size = big SET lower(kind)",
                        "  kind = BIG CELL huts.csv, line 2, field 3");
    }

    @Test
    void factsAndSeveralCellsAreNamedOnce() {
        assertThat(way(
                        "- set: { both: a || b || a || source.file }",
                        "beds: char_length(both)",
                        "beds",
                        1,
                        "code;name;a;b",
                        "H-1;Larch;x;y"))
                .containsExactly(
                        "beds = 11 MAP char_length(both)",
                        " both = xyxhuts.csv SET a || b || a || source.file",
                        "  a = x CELL huts.csv, line 2, field 3",
                        "  b = y CELL huts.csv, line 2, field 4",
                        "  source.file = huts.csv FACT");
    }

    @Test
    void aColumnThatBecameARowIsNamed() {
        assertThat(way(
                        "- wide-to-long: [summer, winter]\n  name: season\n  value: beds",
                        "beds: cast(beds as integer)",
                        "beds",
                        2,
                        "code;name;summer;winter",
                        "H-1;Larch;20;8"))
                .containsExactly(
                        "beds = 8 MAP cast(beds as integer)",
                        " beds = 8 MADE the column winter",
                        "  winter = 8 CELL huts.csv, line 2, field 4");
    }

    @Test
    void aSumSaysOfHowManyRowsItIs() {
        assertThat(way(
                        "- combine: [code]\n  make: { name: first(name), beds: sum(cast(beds as integer)) }",
                        "beds: beds",
                        "beds",
                        1,
                        "code;name;beds",
                        "H-1;Larch;20",
                        "H-1;Larch;8"))
                .containsExactly("beds = 28 MAP beds", " beds = 28 MADE sum(cast(beds as integer)), of 2 rows");
    }
}
