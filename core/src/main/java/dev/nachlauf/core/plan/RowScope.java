package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Aggregation;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Scope;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What a formula of a job sees at its place among the steps. A column whose kind was only detected has two slots, its
 * text and its value: a formula sees all such columns as values, or, where it doesn't hold together so, all as text.
 * Thus a code of nothing but digits can be trimmed, and a job doesn't break when a file happens to hold no letter.
 */
final class RowScope {
    private static final List<Field> FACTS = List.of(
            new Field("source.file", Kind.TEXT),
            new Field("source.sheet", Kind.TEXT),
            new Field("source.row", Kind.INTEGER));
    /** Keeps the slots of both shapes alike where a name must not be found. */
    private static final String HIDDEN = "\0";

    private final Surroundings surroundings;
    private final Shape values;
    private final Shape texts;
    /** Names that are made further down. */
    private final Set<String> below;

    private RowScope(Surroundings surroundings, Shape values, Shape texts, Set<String> below) {
        this.surroundings = surroundings;
        this.values = values;
        this.texts = texts;
        this.below = below;
    }

    /** The same, above others that make these names. */
    RowScope above(Set<String> names) {
        return new RowScope(surroundings, values, texts, names);
    }

    /** The scope of the first step: columns, facts of the row, and the values of detected columns. */
    static RowScope of(List<SourceColumn> columns, List<Integer> detected, Surroundings surroundings) {
        List<Field> values = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
            SourceColumn column = columns.get(i);
            values.add(new Field(
                    column.name(),
                    detected.contains(i) ? Kind.TEXT : column.reading().kind()));
        }
        values.addAll(FACTS);
        List<Field> texts = new ArrayList<>(values);
        for (int index : detected) {
            values.add(new Field(
                    columns.get(index).name(), columns.get(index).reading().kind()));
            texts.add(new Field(HIDDEN + index, Kind.TEXT));
        }
        return new RowScope(surroundings, new Shape(values), new Shape(texts), Set.of());
    }

    /** A scope in which only the facts of the row and what is added can be seen. */
    RowScope closed(int facts) {
        List<Field> hidden = new ArrayList<>();
        for (int i = 0; i < values.fields().size(); i++) {
            boolean fact = i >= facts && i < facts + FACTS.size();
            hidden.add(fact ? values.fields().get(i) : new Field(HIDDEN + i, Kind.TEXT));
        }
        Shape shape = new Shape(hidden);
        return new RowScope(surroundings, shape, shape, below);
    }

    /** The slot that a name means, and its kind; the value of a detected column. Empty where there is none. */
    Optional<Known> find(String name) {
        List<Integer> found = values.find(name, false);
        return found.size() == 1
                ? Optional.of(new Known(found.getFirst(), values.fields().get(found.getFirst())))
                : Optional.empty();
    }

    /** The slot with the text of a column, or the value of what has no other; empty where there is none. */
    Optional<Known> findText(String name) {
        List<Integer> found = texts.find(name, false);
        return found.size() == 1
                ? Optional.of(new Known(found.getFirst(), texts.fields().get(found.getFirst())))
                : Optional.empty();
    }

    /** A slot and what is in it. */
    record Known(int slot, Field field) {}

    /** The names that formulas can use, without those that are hidden. */
    List<String> names() {
        return values.names().stream().filter(name -> !name.startsWith(HIDDEN)).toList();
    }

    /** A formula over many rows of this scope, which agree in some fields. */
    Optional<Aggregated> aggregate(FormulaSource source, List<Field> common, List<Problem> problems) {
        List<Problem> ofValues = new ArrayList<>();
        Optional<Aggregated> formula = aggregate(source, common, values, ofValues);
        if (formula.isEmpty()) {
            formula = aggregate(source, common, texts, new ArrayList<>());
        }
        if (formula.isEmpty()) {
            problems.addAll(ofValues);
        }
        return formula;
    }

    /** A formula over aggregates, and the aggregates. */
    record Aggregated(Formula formula, List<Aggregation.Call> calls) {}

    private Optional<Aggregated> aggregate(
            FormulaSource source, List<Field> common, Shape rows, List<Problem> problems) {
        Aggregation aggregation = new Aggregation(new Scope(rows, surroundings, below, null));
        return Formula.check(source, new Scope(new Shape(common), surroundings, below, aggregation), problems)
                .map(formula -> new Aggregated(formula, aggregation.calls()));
    }

    RowScope with(Field field) {
        return new RowScope(surroundings, values.with(field), texts.with(field), below);
    }

    /** What does not change from row to row. */
    Surroundings surroundings() {
        return surroundings;
    }

    int slots() {
        return values.fields().size();
    }

    /** A formula of any kind. */
    Optional<Formula> check(FormulaSource source, List<Problem> problems) {
        return either(source, values, texts, null, problems);
    }

    /** A formula that has to be of a kind. */
    Optional<Formula> check(FormulaSource source, Kind wanted, List<Problem> problems) {
        return either(source, values, texts, wanted, problems);
    }

    /**
     * A formula for a field of the target. For text, columns are rather taken as they are written. For other kinds, columns
     * of another detected kind are taken as they are written too, and read as what the field needs.
     */
    Optional<Formula> checkFor(FormulaSource source, Kind kind, List<Problem> problems) {
        Optional<Formula> ofTexts = check(source, texts, null, new ArrayList<>());
        if (kind == Kind.TEXT && ofTexts.isPresent()) {
            return ofTexts;
        }
        Optional<Formula> formula = check(source, problems);
        boolean fits = formula.flatMap(Formula::kind)
                .map(found -> found == kind || found == Kind.INTEGER && kind == Kind.DECIMAL)
                .orElse(true);
        boolean rather = !fits
                && ofTexts.flatMap(Formula::kind)
                        .filter(found -> found == Kind.TEXT)
                        .isPresent();
        return rather ? ofTexts : formula;
    }

    private Optional<Formula> either(
            FormulaSource source, Shape first, Shape second, @Nullable Kind wanted, List<Problem> problems) {
        List<Problem> ofFirst = new ArrayList<>();
        Optional<Formula> formula = check(source, first, wanted, ofFirst);
        if (formula.isEmpty()) {
            formula = check(source, second, wanted, new ArrayList<>());
        }
        if (formula.isEmpty()) {
            problems.addAll(ofFirst);
        }
        return formula;
    }

    private Optional<Formula> check(FormulaSource source, Shape shape, @Nullable Kind wanted, List<Problem> problems) {
        Scope scope = new Scope(shape, surroundings, below, null);
        return wanted == null ? Formula.check(source, scope, problems) : Formula.check(source, scope, wanted, problems);
    }
}
