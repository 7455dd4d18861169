package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.contract.formula.Referee;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Scope;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Formulas beside PostgreSQL: the same text, the same values as columns of a table, the same answer. */
class FormulaRefereeTest {
    private static final Shape SHAPE = new Shape(List.of(
            new Field("i", Kind.INTEGER),
            new Field("j", Kind.INTEGER),
            new Field("d", Kind.DECIMAL),
            new Field("e", Kind.DECIMAL),
            new Field("t", Kind.TEXT),
            new Field("u", Kind.TEXT),
            new Field("day", Kind.DATE),
            new Field("n", Kind.TEXT)));
    private static final List<Object[]> ROWS = List.of(
            new Object[] {
                7L,
                -2L,
                new BigDecimal("12.50"),
                new BigDecimal("0.3"),
                " Falkenkar Hut ",
                "50%_a",
                LocalDate.of(2026, 5, 31),
                null
            },
            new Object[] {
                -9L,
                4L,
                new BigDecimal("-0.005"),
                new BigDecimal("1000000.25"),
                "",
                "straße",
                LocalDate.of(1999, 2, 28),
                "x"
            },
            new Object[] {
                0L,
                1L,
                new BigDecimal("123456789012345678.9"),
                new BigDecimal("7"),
                "Ωmega 𝄞",
                "A",
                LocalDate.of(2024, 2, 29),
                ""
            });
    private static String database;

    @BeforeAll
    static void fill() {
        database = Cluster.freshDatabase("""
                CREATE TABLE v (r int, i bigint, j bigint, d numeric, e numeric, t text, u text, day date, n text);
                INSERT INTO v VALUES (0, 7, -2, 12.50, 0.3, ' Falkenkar Hut ', '50%_a', '2026-05-31', null),
                  (1, -9, 4, -0.005, 1000000.25, '', 'straße', '1999-02-28', 'x'),
                  (2, 0, 1, 123456789012345678.9, 7, 'Ωmega 𝄞', 'A', '2024-02-29', '');""");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "i + j * 2",
                "i / j",
                "i - -j",
                "-i",
                "d + e",
                "d * e",
                "d / e",
                "e / d",
                "i / e",
                "d / j",
                "d - i",
                "i * d",
                "1 / 3.0",
                "10000000000 / 3.0",
                "2.0 / 3",
                "0.0001 / 7",
                "d / 1000000",
                "e / 0.0007",
                "round(d, 1)",
                "round(d)",
                "round(d, -2)",
                "round(e, 5)",
                "round(-2.5)",
                "round(2.5)",
                "i > j",
                "d >= e",
                "i = 7.0",
                "t < u",
                "t <> u",
                "day > date '2024-01-01'",
                "n = 'x'",
                "not (n = 'x')",
                "i > 0 and n = 'x'",
                "i > 0 or n = 'x'",
                "n is null",
                "n is not null",
                "n is distinct from 'x'",
                "n is not distinct from null",
                "i between -9 and 0",
                "i not between 0 and 5",
                "i in (7, 0)",
                "i in (7, null)",
                "i not in (7, null)",
                "n in ('x', '')",
                "t like '%a%'",
                "t like ' F%'",
                "u like '50\\%\\_a'",
                "u like '50!%!_a' escape '!'",
                "t not like ''",
                "t like '_m%'",
                "upper(t)",
                "lower(t)",
                "upper(u)",
                "trim(t)",
                "trim(n)",
                "t || u",
                "t || i",
                "n || t",
                "char_length(t)",
                "substring(t, 2, 3)",
                "substring(t, 0, 3)",
                "substring(t, -1)",
                "substring(t, 7)",
                "replace(t, 'a', 'xx')",
                "replace(u, '', 'x')",
                "coalesce(n, t)",
                "nullif(n, '')",
                "nullif(i, 7)",
                "case when i > 0 then 'a' when i < 0 then 'b' end",
                "case i when 7 then d else e end",
                "case when n = 'x' then 1 else 2 end",
                "cast(d as integer)",
                "cast(i as text)",
                "cast(d as text)",
                "cast(t as varchar(4))",
                "cast(e as decimal(12, 1))",
                "day - date '2000-01-01'",
                "day + 1",
                "day - 365",
                "cast(day as text)",
                "cast('12.50' as decimal) + d",
            })
    void agree(String formula) {
        List<dev.nachlauf.core.problem.Problem> problems = new ArrayList<>();
        Formula checked = Formula.check(FormulaSource.of(formula), Scope.of(SHAPE), problems)
                .orElse(null);
        assertThat(problems).isEmpty();
        String sql = formula.replace("as integer)", "as bigint)").replace("as decimal)", "as numeric)");
        for (int row = 0; row < ROWS.size(); row++) {
            String ours = ours(checked, row);
            String theirs = theirs(sql, row);
            assertThat(ours).as(formula + " in row " + row).isEqualTo(theirs);
        }
    }

    /** The seed changes from day to day, so that new expressions are tried, and a failure can be seen again. */
    @Test
    void agreeOverGeneratedExpressions() throws SQLException {
        long seed = LocalDate.now(java.time.ZoneOffset.UTC).toEpochDay();
        System.out.println("formulas beside PostgreSQL: seed " + seed);
        Referee.Verdict verdict = Referee.compare(Cluster.SHARED, 20_000, seed);
        assertThat(verdict.disagreements()).isEmpty();
        assertThat(verdict.pairs()).isEqualTo(20_000);
        assertThat(verdict.errors()).isLessThan(verdict.pairs() / 2);
        assertThat(verdict.listed().values().stream().mapToLong(Long::longValue).sum())
                .isLessThan(verdict.pairs() / 20);
    }

    private static String ours(Formula formula, int row) {
        try {
            return String.valueOf(Values.text(formula.evaluator().evaluate(ROWS.get(row))));
        } catch (dev.nachlauf.core.value.ValueProblem problem) {
            return "error";
        }
    }

    private static String theirs(String formula, int row) {
        try {
            return Cluster.SHARED.query(database, "SELECT (" + formula + ")::text FROM v WHERE r = " + row);
        } catch (IllegalStateException e) {
            return "error";
        }
    }
}
