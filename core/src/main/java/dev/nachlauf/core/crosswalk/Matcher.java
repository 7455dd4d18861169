package dev.nachlauf.core.crosswalk;

import dev.nachlauf.core.crosswalk.Crosswalk.Entry;
import dev.nachlauf.core.crosswalk.Crosswalk.From;
import dev.nachlauf.core.crosswalk.Crosswalk.To;
import dev.nachlauf.core.formula.Evaluator;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Scope;
import dev.nachlauf.core.formula.Translation;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A compiled crosswalk. A value is looked for in the table of its scope, then in the one without a scope; in each of them
 * exact entries come first, then ranges, then wildcards (the one with most literal characters), then formulas in their
 * order. Where nothing matches, the default of the scope holds, then the default without one.
 */
public final class Matcher implements Translation {
    private static final Shape SHAPE = new Shape(List.of(new Field("value", Kind.TEXT), new Field("scope", Kind.TEXT)));

    private final Crosswalk crosswalk;
    private final Map<String, Table> tables = new HashMap<>();
    private final Map<FormulaSource, Evaluator> formulas = new IdentityHashMap<>();

    private Matcher(Crosswalk crosswalk) {
        this.crosswalk = crosswalk;
    }

    /** The entries of one scope. */
    private static final class Table {
        private final Map<String, Entry> exact = new HashMap<>();
        private final Ranges ranges = new Ranges();
        private final List<Entry> wildcards = new ArrayList<>();
        private final List<Entry> formulas = new ArrayList<>();
        private @Nullable WildcardSet compiled;
        private @Nullable Entry otherwise;
    }

    /** The matcher; entries that contradict each other are added to {@code problems}. */
    public static Matcher compile(Crosswalk crosswalk, List<Problem> problems) {
        Matcher matcher = new Matcher(crosswalk);
        for (Entry entry : crosswalk.entries()) {
            matcher.add(entry, problems);
        }
        for (Table table : matcher.tables.values()) {
            table.compiled = WildcardSet.of(table.wildcards.stream()
                    .map(entry -> matcher.folded(((From.Wildcard) entry.from()).pattern()))
                    .toList());
        }
        return matcher;
    }

    private void add(Entry entry, List<Problem> problems) {
        Table table = tables.computeIfAbsent(entry.scope(), scope -> new Table());
        Entry before = switch (entry.from()) {
            case From.Exact exact -> table.exact.put(folded(exact.value()), entry);
            case From.Range range -> table.ranges.add(range, entry);
            case From.Wildcard ignored -> {
                table.wildcards.add(entry);
                yield null;
            }
            case From.When when -> {
                compile(when.formula(), Kind.BOOLEAN, problems);
                table.formulas.add(entry);
                yield null;
            }
            case From.Otherwise ignored -> {
                Entry other = table.otherwise;
                table.otherwise = entry;
                yield other;
            }
        };
        if (entry.to() instanceof To.Computed computed) {
            compile(computed.formula(), Kind.TEXT, problems);
        }
        if (before != null) {
            problems.add(Problem.at(
                    entry.place(),
                    ProblemCode.NAME_TAKEN,
                    "The value " + Values.shortened(entry.from().text()) + " is translated twice"
                            + (entry.scope().isEmpty() ? "" : " in the scope " + entry.scope()) + ": to "
                            + Values.shortened(before.to().text()) + " and to "
                            + Values.shortened(entry.to().text()) + ".",
                    "Keep one of the entries."));
        }
    }

    private void compile(FormulaSource source, Kind kind, List<Problem> problems) {
        Formula.check(source, Scope.of(SHAPE), kind, problems)
                .ifPresent(formula -> formulas.put(source, formula.evaluator()));
    }

    private String folded(String value) {
        return crosswalk.ignoreCase() ? value.toLowerCase(Locale.ROOT) : value;
    }

    /** Why a value becomes what it becomes. */
    public record Match(Entry entry, String translation) {}

    /** The entry that translates a value; empty where none does. */
    public Optional<Match> match(String value, @Nullable String scope) {
        Table scoped = scope == null || scope.isEmpty() ? null : tables.get(scope);
        Table common = tables.get("");
        Entry entry = scoped == null ? null : find(scoped, value, scope);
        if (entry == null && common != null) {
            entry = find(common, value, scope);
        }
        if (entry == null && scoped != null) {
            entry = scoped.otherwise;
        }
        if (entry == null && common != null) {
            entry = common.otherwise;
        }
        return entry == null ? Optional.empty() : Optional.of(new Match(entry, translation(entry, value, scope)));
    }

    private @Nullable Entry find(Table table, String value, @Nullable String scope) {
        String wanted = folded(value);
        Entry exact = table.exact.get(wanted);
        if (exact != null) {
            return exact;
        }
        Entry range = table.ranges.find(value);
        if (range != null) {
            return range;
        }
        int wildcard = table.compiled == null ? -1 : table.compiled.match(wanted);
        if (wildcard >= 0) {
            return table.wildcards.get(wildcard);
        }
        for (Entry entry : table.formulas) {
            if (entry.from() instanceof From.When when && Boolean.TRUE.equals(evaluate(when.formula(), value, scope))) {
                return entry;
            }
        }
        return null;
    }

    private String translation(Entry entry, String value, @Nullable String scope) {
        return switch (entry.to()) {
            case To.Value to -> to.text();
            case To.Computed computed -> String.valueOf(Values.text(evaluate(computed.formula(), value, scope)));
        };
    }

    private @Nullable Object evaluate(FormulaSource formula, String value, @Nullable String scope) {
        Evaluator evaluator = formulas.get(formula);
        return evaluator == null ? null : evaluator.evaluate(new Object[] {value, scope});
    }

    @Override
    public @Nullable String translate(@Nullable String value, @Nullable String scope) {
        if (value == null || value.isEmpty()) {
            return crosswalk.empty().orElse(null);
        }
        Optional<Match> match = match(value, scope);
        if (match.isEmpty()) {
            Gap gap = new Gap(crosswalk.name(), scope == null ? "" : scope, value);
            throw new ValueProblem(
                    ProblemCode.NO_TRANSLATION,
                    value,
                    "The crosswalk " + crosswalk.name() + " has no translation of '" + Values.shortened(value) + "'"
                            + (gap.scope().isEmpty() ? "" : " in the scope " + Values.shortened(gap.scope())) + ".",
                    "Add it: crosswalk gaps lists all that are missing.",
                    gap.subject());
        }
        return match.get().translation();
    }
}
