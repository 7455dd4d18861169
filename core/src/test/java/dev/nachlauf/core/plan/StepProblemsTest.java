package dev.nachlauf.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What the check says of steps and writes that can't work: the code, and the words that it points at. */
class StepProblemsTest {
    private static final RecordDescription HUT = new RecordDescription(
            "hut",
            true,
            List.of(
                    FieldDescription.plain("hut_id", Kind.INTEGER),
                    FieldDescription.requiredField("code", Kind.TEXT),
                    FieldDescription.requiredField("name", Kind.TEXT),
                    FieldDescription.plain("beds", Kind.INTEGER),
                    FieldDescription.plain("opens", Kind.DATE),
                    FieldDescription.plain("deputy", Kind.TEXT)),
            List.of(
                    new UniqueKey("hut_pkey", List.of("hut_id"), true),
                    new UniqueKey("hut_code_key", List.of("code"), false)),
            List.of());
    /** A record type whose id has two fields. */
    private static final RecordDescription LINE = new RecordDescription(
            "line",
            true,
            List.of(FieldDescription.plain("order", Kind.TEXT), FieldDescription.plain("no", Kind.INTEGER)),
            List.of(new UniqueKey("line_pkey", List.of("order", "no"), true)),
            List.of());

    private static final String WRITE =
            "{ connection: register, records: hut, action: upsert, key: [code], " + "map: { code: no, name: name } }";

    private static List<Problem> problems(String steps, String write) {
        List<Problem> problems = new ArrayList<>();
        String job = """
                nachlauf: 1
                job: huts
                read:
                  connection: inbox
                  file: huts.csv
                  fields: { count: { is: integer }, day: { is: date } }
                steps: [%s]
                write: %s
                """.formatted(steps, write);
        List<SourceColumn> columns = List.of("no", "name", "count", "day", "parent").stream()
                .map(name -> SourceColumn.text(new SourceField(name, "field")))
                .toList();
        JobFile.read(new SourceText("huts.yaml", job), problems)
                .ifPresent(read -> Planner.plan(
                        read,
                        Surroundings.NONE,
                        columns,
                        (connection, records, written, found) ->
                                Optional.of(records.value().equals("line") ? LINE : HUT),
                        problems));
        return problems;
    }

    private static String shown(List<Problem> problems) {
        List<String> shown = new ArrayList<>();
        for (Problem problem : problems) {
            String at = problem.place() instanceof Place.InText text
                    ? text.source().slice(text.span()).replace("\n", " ")
                    : "?";
            shown.add(problem.code().id() + " at " + at);
        }
        return String.join("; ", shown);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "{ where: count }§type-mismatch at count",
                "{ where: cuont > 1 }§field-unknown at cuont",
                "{ rule: name }§type-mismatch at name",
                "{ set: { a: b, b: no } }§field-unknown at b",
                "{ where: later = 'x' }, { set: { later: no } }§field-unknown at later",
                "{ duplicates: [on] }§field-unknown at on",
                "{ duplicates: [no], keep: sum, sum: [name] }§type-mismatch at name",
                "{ duplicates: [no], keep: all }§value-wrong-kind at all",
                "{ combine: [no], make: { rows: sum(name), count: sum(count), name: max(name) } }§type-mismatch at sum(name)",
                "{ combine: [on], make: { name: max(name), no: max(no) } }§field-unknown at on",
                "{ wide-to-long: ['price *'], name: kind, value: price }§field-unknown at 'price *'",
                "{ wide-to-long: [count, day], name: kind, value: price }§type-mismatch at count",
                "{ long-to-wide: [no], name: kin, value: count, fields: { name: x } }§field-unknown at kin",
                "{ group: order, by: [on] }§field-unknown at on",
                "{ group: order, by: [no], line-fails: never }§value-wrong-kind at never",
                "{ parents-first: [no], parent: [parnet] }§field-unknown at parnet",
                "{ whole-load: sum(count) }§type-mismatch at sum(count)",
                "{ whole-load: count > 1 }§field-unknown at count",
                "{ lookup: w, connection: register, records: hut, match: { cod: no }, bring: [name] }§target-field-unknown at cod",
                "{ lookup: w, connection: register, records: hut, match: { code: no }, bring: [nmae] }§target-field-unknown at nmae",
                "{ lookup: w, connection: register, records: hut, match: { opens: count }, bring: [name] }§type-mismatch at count",
            })
    void stepsThatCantWork(String steps, String expected) {
        assertThat(shown(problems(steps, WRITE))).startsWith(expected);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "{ group: order, by: [no] }, { group: other, by: [name] }§step-order at other",
                "{ group: order, by: [no] }, { parents-first: [no], parent: [parent] }§step-order at no",
                "{ parents-first: [no], parent: [parent] }, { group: order, by: [no] }§step-order at order",
                "{ group: order, by: [no] }, { combine: [no, name], make: { rows: count() } }§step-order at order",
                "{ group: order, by: [no] }, { duplicates: [no], keep: sum, sum: [count] }§step-order at order",
                "{ parents-first: [no], parent: [parent] }, { combine: [no, name], make: { rows: count() } }§step-order at no",
                "{ group: order, by: [no] }, { wide-to-long: [count], name: kind, value: n }§step-order at order",
            })
    void whatArrangesRowsStandsOnceAndLast(String steps, String expected) {
        assertThat(shown(problems(steps, WRITE))).isEqualTo(expected);
    }

    @Test
    void rowsMayBeLeftOutBelowAGroup() {
        assertThat(problems(
                        "{ group: order, by: [no] }, { where: count > 1 }, { duplicates: [no, count], keep: first }",
                        WRITE))
                .isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "key: [code], map: { code: no }§target-field-required at hut",
                "key: [code], map: { name: name }§target-field-required at hut; key-not-mapped at code",
                "key: [cod], map: { code: no, name: name }§target-field-unknown at cod",
                "key: [name], map: { code: no, name: name }§key-not-unique at name",
                "key: [code], map: { code: no, name: name, bedds: count }§target-field-unknown at bedds",
                "key: [code], map: { code: no, name: name, opens: count }§type-mismatch at count",
                "key: [code], map: { code: { value: no, write: if-empty }, name: name }§value-wrong-kind at code",
                "key: [code], once-per: order, map: { code: no, name: name }§group-unknown at order",
                "key: [code], when: name, map: { code: no, name: name }§type-mismatch at name",
                "key: [code], map: { code: no, name: name, beds: { find: line, by: { no: count } } }§key-missing at line",
                "key: [code], map: { code: no, name: name, beds: { find: hut, by: { cod: no } } }§target-field-unknown at cod",
                "key: [code], map: { code: no, name: name, beds: { value: cuont, off: true } }§field-unknown at cuont",
            })
    void writesThatCantWork(String write, String expected) {
        assertThat(shown(problems("", "{ connection: register, records: hut, action: upsert, " + write + " }")))
                .isEqualTo(expected);
    }

    @Test
    void anUpdateNeedsNoRequiredFields() {
        assertThat(
                        problems(
                                "",
                                "{ connection: register, records: hut, action: update, key: [code], map: { code: no, beds: count } }"))
                .isEmpty();
    }
}
