package dev.nachlauf.bench;

import dev.nachlauf.core.formula.Evaluator;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.formula.Translation;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.value.Kind;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.infra.Blackhole;

/**
 * A row of eight formulas: compiled from their text, and as closures composed by hand; both over the same rows, both
 * giving the same values. {@code checkAJobOf300Fields} checks 300 formulas as a job with so many fields has them.
 */
@State(Scope.Benchmark)
public class EightFormulas {
    private static final int ROWS = 1_024;
    private static final Map<String, String> CATEGORIES = Map.of("serviced", "1", "simple", "2", "bivouac", "4");
    private static final Shape SHAPE = new Shape(List.of(
            new Field("code", Kind.TEXT),
            new Field("arrival", Kind.TEXT),
            new Field("price", Kind.TEXT),
            new Field("status", Kind.TEXT),
            new Field("first", Kind.TEXT),
            new Field("last", Kind.TEXT),
            new Field("category", Kind.TEXT),
            new Field("nights", Kind.TEXT)));
    private static final List<String> FORMULAS = List.of(
            "upper(trim(code))",
            "parse_date(arrival, 'dd.MM.yyyy')",
            "parse_decimal(price, 'de')",
            "case when status = 'closed' then 'C' when status = 'open' then 'O' else '?' end",
            "first || ' ' || last",
            "coalesce(status, category)",
            "crosswalk('category', category)",
            "cast(nights as integer)");

    private final Object[][] rows = new Object[ROWS][];
    private final Evaluator[] compiled = new Evaluator[FORMULAS.size()];
    private final ByHand[] composed = ByHand.all(CATEGORIES);
    private int next;

    /** Makes the rows and compiles the formulas. */
    public EightFormulas() {
        Translation category = (value, scope) -> value == null ? null : CATEGORIES.get(value);
        Surroundings surroundings = new Surroundings(Map.of(), Map.of(), Map.of("category", category), Map.of());
        dev.nachlauf.core.formula.Scope scope = new dev.nachlauf.core.formula.Scope(SHAPE, surroundings);
        List<Problem> problems = new ArrayList<>();
        for (int i = 0; i < compiled.length; i++) {
            compiled[i] = Formula.check(FormulaSource.of(FORMULAS.get(i)), scope, problems)
                    .orElseThrow(() -> new IllegalStateException(problems.toString()))
                    .evaluator();
        }
        String[] categories = CATEGORIES.keySet().toArray(String[]::new);
        for (int i = 0; i < ROWS; i++) {
            rows[i] = new Object[] {
                " h-%03d ".formatted(i),
                "%02d.%02d.2026".formatted(1 + i % 28, 1 + i % 12),
                "%d.%03d,50".formatted(1 + i % 9, i % 1000),
                i % 3 == 0 ? null : i % 3 == 1 ? "open" : "closed",
                "Ada",
                "Föhrenstein " + i,
                categories[i % categories.length],
                String.valueOf(i % 14)
            };
            for (int f = 0; f < compiled.length; f++) {
                Object a = compiled[f].evaluate(rows[i]);
                Object b = composed[f].of(rows[i]);
                if (a == null ? b != null : !a.equals(b)) {
                    throw new IllegalStateException(FORMULAS.get(f) + " gives " + a + " and by hand " + b);
                }
            }
        }
    }

    /** As the product does it. */
    @Benchmark
    public void compiledFormulas(Blackhole sink) {
        Object[] row = rows[next++ & ROWS - 1];
        for (Evaluator formula : compiled) {
            sink.consume(formula.evaluate(row));
        }
    }

    /** As somebody would write it who knows the eight beforehand. */
    @Benchmark
    public void closuresByHand(Blackhole sink) {
        Object[] row = rows[next++ & ROWS - 1];
        for (ByHand closure : composed) {
            sink.consume(closure.of(row));
        }
    }

    /** A job of 300 fields: each formula is lexed, parsed, checked and compiled. */
    @Benchmark
    public void checkAJobOf300Fields(Blackhole sink) {
        Surroundings surroundings =
                new Surroundings(Map.of(), Map.of(), Map.of("category", (value, scope) -> value), Map.of());
        dev.nachlauf.core.formula.Scope scope = new dev.nachlauf.core.formula.Scope(SHAPE, surroundings);
        for (int i = 0; i < 300; i++) {
            sink.consume(
                    Formula.check(FormulaSource.of(FORMULAS.get(i % FORMULAS.size())), scope, new ArrayList<>()));
        }
    }

    /** A closure over a row. */
    interface ByHand {
        Object of(Object[] row);

        static ByHand[] all(Map<String, String> categories) {
            return new ByHand[] {
                row -> row[0] instanceof String text ? text.trim().toUpperCase(java.util.Locale.ROOT) : null,
                row -> row[1] instanceof String text ? date(text) : null,
                row -> row[2] instanceof String text ? decimal(text) : null,
                row -> "closed".equals(row[3]) ? "C" : "open".equals(row[3]) ? "O" : "?",
                row -> row[4] instanceof String first && row[5] instanceof String last
                        ? first.concat(" ").concat(last)
                        : null,
                row -> row[3] != null ? row[3] : row[6],
                row -> categories.get(String.valueOf(row[6])),
                row -> row[7] instanceof String text ? Long.valueOf(text.strip()) : null
            };
        }

        private static LocalDate date(String text) {
            return LocalDate.of(number(text, 6, 10), number(text, 3, 5), number(text, 0, 2));
        }

        private static int number(String text, int from, int to) {
            int value = 0;
            for (int i = from; i < to; i++) {
                value = value * 10 + text.charAt(i) - '0';
            }
            return value;
        }

        private static BigDecimal decimal(String text) {
            long value = 0;
            int scale = 0;
            boolean behind = false;
            for (int i = 0; i < text.length(); i++) {
                char c = text.charAt(i);
                if (c == ',') {
                    behind = true;
                } else if (c != '.') {
                    value = value * 10 + c - '0';
                    scale += behind ? 1 : 0;
                }
            }
            return BigDecimal.valueOf(value, scale);
        }
    }
}
