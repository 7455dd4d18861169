package dev.nachlauf.core.formula;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.formula.Scope.Fixed;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.function.Form;
import dev.nachlauf.core.function.Function;
import dev.nachlauf.core.function.FunctionTable;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

class FormulaTest {
    private static final Shape SHAPE = new Shape(List.of(
            new Field("Hut no.", Kind.TEXT),
            new Field("name", Kind.TEXT),
            new Field("beds", Kind.INTEGER),
            new Field("price", Kind.DECIMAL),
            new Field("opens", Kind.DATE),
            new Field("nothing", Kind.TEXT)));
    private static final Object[] ROW = {
        " h-017 ", "Falkenkar Hut", 24L, new BigDecimal("24.50"), LocalDate.of(2026, 5, 1), null
    };

    private static final Map<String, Piece> PIECES = Map.of(
            "hut_code",
            new Piece("hut_code", List.of(new Field("raw", Kind.TEXT)), FormulaSource.of("upper(trim(raw))")),
            "labelled",
            new Piece(
                    "labelled",
                    List.of(new Field("raw", Kind.TEXT), new Field("no", Kind.DECIMAL)),
                    FormulaSource.of("hut_code(raw) || ' ' || no")));

    private static Object evaluate(String text) {
        List<Problem> problems = new ArrayList<>();
        Scope scope = new Scope(
                SHAPE,
                new Surroundings(
                        Map.of("season", new Fixed(Kind.INTEGER, 2026L)),
                        Map.of("run.user", new Fixed(Kind.TEXT, "warden")),
                        Map.of("category", (value, of) -> value == null ? null : of + "/" + value),
                        PIECES));
        Formula formula = Formula.check(FormulaSource.of(text), scope, problems).orElse(null);
        assertThat(problems).isEmpty();
        return formula.evaluator().evaluate(ROW);
    }

    private static String text(String formula) {
        try {
            return Values.text(evaluate(formula));
        } catch (ValueProblem problem) {
            return "!" + problem.code().id();
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            nullValues = "null",
            value = {
                "1 + 2 * 3§7",
                "(1 + 2) * 3§9",
                "-2 - -3§1",
                "7 / 2§3",
                "-7 / 2§-3",
                "7.0 / 2§3.5000000000000000",
                "1 / 3.0§0.33333333333333333333",
                "1.10 + 2§3.10",
                "1.50 * 2§3.00",
                "9223372036854775807 + 1§!out-of-range",
                "-9223372036854775808§-9223372036854775808",
                "-9223372036854775808 / -1§!out-of-range",
                "1 / 0§!division-by-zero",
                "beds / 0.0§!division-by-zero",
                "upper(trim(\"Hut no.\"))§H-017",
                "name || ' ' || beds§Falkenkar Hut 24",
                "name || nothing§null",
                "upper(nothing)§null",
                "beds > 20 and price < 30§true",
                "beds > 20 and nothing = 'x'§null",
                "beds > 200 and nothing = 'x'§false",
                "beds > 20 or nothing = 'x'§true",
                "not (nothing = 'x')§null",
                "nothing is null§true",
                "name is not null§true",
                "nothing is distinct from 'x'§true",
                "nothing is not distinct from null§true",
                "price = 24.5§true",
                "beds = 24.0§true",
                "beds between 0 and 200§true",
                "beds not between 0 and 20§true",
                "beds in (12, 24)§true",
                "beds in (12, null)§null",
                "beds not in (12, 36)§true",
                "name like 'Falk%'§true",
                "name like '%k__ H_t'§true",
                "'50%' like '50\\%'§true",
                "'a_b' like 'a!_b' escape '!'§true",
                "name not like '%house%'§true",
                "case when beds > 50 then 'large' when beds > 20 then 'middle' else 'small' end§middle",
                "case name when 'x' then 1 end§null",
                "case when true then 1 else 2.5 end§1",
                "coalesce(nothing, name, 'x')§Falkenkar Hut",
                "coalesce(nothing, null)§null",
                "nullif(beds, 24)§null",
                "nullif(name, 'x')§Falkenkar Hut",
                "cast('17' as integer) + 1§18",
                "cast(' 1.50 ' as decimal)§1.50",
                "cast('' as integer)§!value-malformed",
                "cast(2.5 as integer)§3",
                "cast(-2.5 as integer)§-3",
                "cast(beds as text) || 'x'§24x",
                "cast(name as varchar(6))§Falken",
                "cast(123.456 as decimal(5, 1))§123.5",
                "cast(123.456 as decimal(3, 1))§!out-of-range",
                "cast('true' as boolean)§true",
                "date '2026-05-31' - opens§30",
                "opens + 31§2026-06-01",
                "opens > date '2026-01-01'§true",
                "timestamp '2026-05-01 07:30:00' > cast(opens as timestamp)§true",
                ":season + 1§2027",
                "BEDS§24",
                "'it''s'§it's",
                "''§``",
                "substring(name, 0, 3)§Fa",
                "substring(name, 12)§ut",
                "substring(name, 5, -1)§!out-of-range",
                "round(2.345, 2)§2.35",
                "round(-2.5)§-3",
                "round(1250, -2)§1300",
                "upper('straße')§STRAßE",
                "char_length('𝄞a')§2",
                "(nothing = 'x') is unknown§true",
                "(beds > 20) is not false§true",
                "(beds > 20) is true§true",
                "greatest(beds, 24.5, null)§24.5",
                "least(nothing, null)§null",
                "case beds when 12 then 'a' when 24 then 'b' else 'c' end§b",
                "case nothing when null then 1 else 2 end§2",
                "extract(year from opens)§2026",
                "extract(dow from date '2026-05-03')§0",
                "extract(isodow from date '2026-05-03')§7",
                "extract(week from date '2027-01-01')§53",
                "extract(isoyear from date '2027-01-01')§2026",
                "extract(second from timestamp '2026-05-01 07:30:09.5')§9.500000",
                "date '2026-01-31' + interval '1' month§2026-02-28",
                "date '2026-01-31' + interval '1' month + interval '1' month§2026-03-28",
                "interval '1' year + date '2024-02-29'§2025-02-28",
                "date '2026-03-01' - interval '1' day§2026-02-28",
                "timestamp '2026-05-01 23:30:00' + interval '45' minute§2026-05-02 00:15:00",
                "timestamp '2026-05-01 23:30:00' - interval '0.5' second§2026-05-01 23:29:59.5",
                "time '23:30:00' + interval '1' hour§00:30:00",
                "date '9999-12-31' + 1§!out-of-range",
                "substring(name from 11)§Hut",
                "substring(name from 1 for 5)§Falke",
                "position('Hut' in name)§11",
                "trim(leading '0' from '0070')§70",
                "trim(trailing from 'a ')§a",
                "trim(both 'xy' from 'yxaxy')§a",
                "trim(from ' a ')§a",
                "split_part('a-b-c', '-', -1)§c",
                "split_part('a-b-c', '-', 4)§``",
                "left('Hütte', -2)§Hüt",
                "right('H-017', -2)§017",
                "phone('0043 664 1234567', '43')§+436641234567",
                "phone('664 1234567', '43')§!value-malformed",
                "is_email('no one@falkenkar.example')§false",
                "find_match(name, 'H(u)t', 1)§u",
                "find_match(name, 'X')§null",
                "find_match(name, 'Hut', 3)§!out-of-range",
                "parse_date('31.02.2026', 'dd.MM.yyyy')§!value-malformed",
                "mod10('12a')§!value-malformed",
                "mod10_valid('79927398710')§false",
                "mod(-9223372036854775808, -1)§0",
                "abs(-9223372036854775808)§!out-of-range",
                "repeat('ab', 600000)§!out-of-range",
                "crosswalk('category', beds)§null/24",
                "crosswalk('category', name, 'SEE')§SEE/Falkenkar Hut",
                "run.user§warden",
                "hut_code(\"Hut no.\")§H-017",
                "labelled(\"Hut no.\", beds)§H-017 24",
            })
    void computes(String formula, String expected) {
        assertThat(text(formula)).isEqualTo(expected);
    }

    static Stream<Function> functions() {
        return FunctionTable.all().stream();
    }

    @ParameterizedTest
    @MethodSource("functions")
    void everyFunctionDoesWhatItsExampleSays(Function function) {
        assertThat(text(function.example())).isEqualTo(function.exampleResult());
        assertThat(function.help()).endsWith(".");
    }

    static Stream<Form> forms() {
        return Form.ALL.stream().filter(form -> !form.example().isEmpty());
    }

    @ParameterizedTest
    @MethodSource("forms")
    void everyFormDoesWhatItsExampleSays(Form form) {
        assertThat(text(form.example())).isEqualTo(form.exampleResult());
    }

    @Test
    void nothingGrowsWithoutBounds() {
        String doubling = "name || ".repeat(90) + "name";
        String text = "repeat('a', 12000)";
        assertThat(text(doubling.replace("name", text))).isEqualTo("!out-of-range");
        assertThat(text("cast('" + "9".repeat(900) + "' as decimal) * cast('" + "9".repeat(900) + "' as decimal)"))
                .hasSize(1800);
        String large = "cast('" + "9".repeat(900) + "' as decimal)";
        assertThat(text(large + " * " + large + " * " + large)).isEqualTo("!out-of-range");
    }

    @Test
    void knowsWhichFieldsItReads() {
        List<Problem> problems = new ArrayList<>();
        Formula formula = Formula.check(FormulaSource.of("beds * 2 + beds"), Scope.of(SHAPE), problems)
                .orElseThrow();
        assertThat(formula.slots()).containsExactly(2);
        assertThat(formula.kind()).contains(Kind.INTEGER);
    }

    @Test
    void aBrokenInputHasNoValueAndNoSecondProblem() {
        Formula formula = Formula.check(FormulaSource.of("upper(name)"), Scope.of(SHAPE), new ArrayList<>())
                .orElseThrow();
        Object[] row = ROW.clone();
        row[1] = BrokenInput.VALUE;
        org.assertj.core.api.Assertions.assertThatThrownBy(
                        () -> formula.evaluator().evaluate(row))
                .isInstanceOf(BrokenInput.class);
    }
}
