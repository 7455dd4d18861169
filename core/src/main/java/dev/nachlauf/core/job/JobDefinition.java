package dev.nachlauf.core.job;

import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;

/** What a job file says. */
public record JobDefinition(
        String name,
        String title,
        String notes,
        List<Parameter> parameters,
        Read read,
        List<Step> steps,
        Write write,
        Limits limits) {

    /** {@code defaultValue} is null where the value must be given when the job starts. */
    public record Parameter(
            Placed<String> name, Kind kind, @Nullable Object defaultValue) {}

    /**
     * Where rows come from. Names may hold {@code ${parameter}}.
     *
     * @param again whether files are read that an earlier run has loaded already
     * @param trailer the figures of a closing line that are checked; empty where there is none
     */
    public record Read(
            Placed<String> connection,
            From from,
            Format format,
            List<FieldDeclaration> fields,
            boolean again,
            Optional<Trailer> trailer) {}

    /** What is read of a connection. */
    public sealed interface From {
        /** As it is written in the job. */
        Placed<String> text();

        /** Files; the name may hold wildcards. */
        record File(Placed<String> text) implements From {}

        /** All records of a type. */
        record Records(Placed<String> text) implements From {}

        /** What a query finds. */
        record Query(Placed<String> text) implements From {}
    }

    /**
     * A closing line with control figures. Positions count from 1.
     *
     * @param count where the number of rows stands
     * @param totals where the sum of a field stands
     */
    public record Trailer(OptionalInt count, Map<String, Integer> totals) {}

    /** How to take the file apart; what is not said is detected, also the format itself. */
    public record Format(Optional<Placed<String>> as, Map<String, Placed<String>> options) {}

    /** A field's declared kind. {@code pattern} is for dates and times, {@code locale} for numbers. */
    public record FieldDeclaration(
            Placed<String> name,
            Kind kind,
            @Nullable String pattern,
            @Nullable String locale) {
        /** How the field's cells are read. */
        public Reading reading() {
            return new Reading(kind, pattern, locale);
        }
    }

    /** A step; each sees what stands above it. */
    public sealed interface Step {
        /** Rows for which the formula is not true are skipped. */
        record Where(FormulaSource formula) implements Step {}

        /** New or replaced fields, one after the other. */
        record Set(List<Assignment> assignments) implements Step {}

        /** Rows for which the formula is false are rejected with the message. */
        record Rule(FormulaSource formula, String message) implements Step {}
    }

    /** One line of set. */
    public record Assignment(Placed<String> field, FormulaSource formula) {}

    /** Where rows go. */
    public record Write(
            String name,
            Placed<String> connection,
            Placed<String> records,
            Action action,
            List<Placed<String>> key,
            List<Mapping> map) {}

    /** What a write does with a row. */
    public enum Action {
        UPSERT
    }

    /** One line of map. */
    public record Mapping(Placed<String> field, FormulaSource formula) {}

    /** Limits of a run; empty where there is none. */
    public record Limits(Optional<Limit> rejected) {}

    /** A number of rows, or a share of them in percent. */
    public sealed interface Limit {
        record Rows(long most) implements Limit {}

        record Percent(double most) implements Limit {}

        /** A share means little for a few rows: below this many it counts only at the end. */
        long SHARE_COUNTS_FROM = 1_000;

        /** Whether so many rejects among so many rows are too many. */
        default boolean crossed(long rejected, long read, boolean atEnd) {
            return switch (this) {
                case Rows rows -> rejected > rows.most;
                case Percent percent ->
                    (atEnd || read >= SHARE_COUNTS_FROM) && read > 0 && rejected * 100.0 / read > percent.most;
            };
        }

        /** As it is written in a job. */
        default String text() {
            return switch (this) {
                case Rows rows -> String.valueOf(rows.most);
                case Percent percent ->
                    new java.math.BigDecimal(String.valueOf(percent.most))
                                    .stripTrailingZeros()
                                    .toPlainString() + " %";
            };
        }
    }

    /** Replaces {@code ${name}} by the parameter's value. */
    public static String fill(String text, Map<String, @Nullable Object> parameters) {
        String filled = text;
        for (Map.Entry<String, @Nullable Object> parameter : parameters.entrySet()) {
            filled = filled.replace("${" + parameter.getKey() + "}", String.valueOf(parameter.getValue()));
        }
        return filled;
    }
}
