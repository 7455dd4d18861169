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
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.infra.Blackhole;

/**
 * A row of eight formulas: compiled from their text, as closures composed by hand, and as one lambda a formula by
 * somebody who knows the eight beforehand; all over the same rows, all giving the same values.
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
    private final Composed[] composed = Composed.all(CATEGORIES);
    private final Lambdas[] lambdas = Lambdas.all(CATEGORIES);
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
                Object c = lambdas[f].of(rows[i]);
                if (!Objects.equals(a, b) || !Objects.equals(a, c)) {
                    throw new IllegalStateException(FORMULAS.get(f) + " gives " + a + ", by hand " + b + " and " + c);
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

    /** Small closures, one per operation, put together by hand. */
    @Benchmark
    public void closuresComposedByHand(Blackhole sink) {
        Object[] row = rows[next++ & ROWS - 1];
        for (Composed closure : composed) {
            sink.consume(closure.of(row));
        }
    }

    /** One lambda a formula, which checks nothing. */
    @Benchmark
    public void lambdasByHand(Blackhole sink) {
        Object[] row = rows[next++ & ROWS - 1];
        for (Lambdas lambda : lambdas) {
            sink.consume(lambda.of(row));
        }
    }
}
