package dev.nachlauf.core.crosswalk;

import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.problem.Place;
import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A translation table as it is written.
 *
 * @param ignoreCase whether values that differ in case only are the same
 * @param empty what an empty value becomes; empty where it stays empty
 */
public record Crosswalk(String name, String title, boolean ignoreCase, Optional<String> empty, List<Entry> entries) {
    public Crosswalk {
        entries = List.copyOf(entries);
    }

    /**
     * One entry.
     *
     * @param scope the scope whose table it belongs to; empty for the table without one
     */
    public record Entry(String scope, From from, To to, Place place) {}

    /** Which values an entry translates. */
    public sealed interface From {
        /** This value. */
        record Exact(String value) implements From {}

        /** Numbers from one to another, both included; null for no bound. */
        record Range(@Nullable BigDecimal least, @Nullable BigDecimal most) implements From {}

        /** {@code *} stands for any text, {@code ?} for one character, a backslash takes the next one literally. */
        record Wildcard(String pattern) implements From {}

        /** Values for which a formula over {@code value} and {@code scope} is true. */
        record When(FormulaSource formula) implements From {}

        /** Every value that no other entry translates. */
        record Otherwise() implements From {}

        /** As people write it. */
        default String text() {
            return switch (this) {
                case Exact exact -> exact.value();
                case Range range ->
                    (range.least() == null ? "" : range.least().toPlainString()) + ".."
                            + (range.most() == null ? "" : range.most().toPlainString());
                case Wildcard wildcard -> wildcard.pattern();
                case When when -> when.formula().text();
                case Otherwise ignored -> "otherwise";
            };
        }

        /** The key under which it stands in a document. */
        default String word() {
            return switch (this) {
                case Exact ignored -> "from";
                case Range ignored -> "range";
                case Wildcard ignored -> "like";
                case When ignored -> "when";
                case Otherwise ignored -> "otherwise";
            };
        }
    }

    /** What a value becomes. */
    public sealed interface To {
        record Value(String text) implements To {}

        /** What a formula over {@code value} and {@code scope} gives. */
        record Computed(FormulaSource formula) implements To {}

        /** As people write it. */
        default String text() {
            return switch (this) {
                case Value value -> value.text();
                case Computed computed -> computed.formula().text();
            };
        }
    }
}
