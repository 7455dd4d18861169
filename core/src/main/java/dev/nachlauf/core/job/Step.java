package dev.nachlauf.core.job;

import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.job.JobDefinition.Assignment;
import dev.nachlauf.core.job.JobDefinition.FieldDeclaration;
import dev.nachlauf.core.job.JobDefinition.Format;
import java.util.List;

/** A step; each sees what stands above it. */
public sealed interface Step {
    /** The word by which the balance and messages call it. */
    default String label() {
        return switch (this) {
            case Where ignored -> "where";
            case Set ignored -> "set";
            case Rule ignored -> "rule";
            case Lookup lookup -> "lookup " + lookup.name().value();
            case WholeLoad ignored -> "whole-load";
            case Duplicates ignored -> "duplicates";
            case Combine ignored -> "combine";
            case WideToLong ignored -> "wide-to-long";
            case LongToWide ignored -> "long-to-wide";
            case Group group -> "group " + group.name().value();
            case ParentsFirst ignored -> "parents-first";
        };
    }

    /** The fields that it makes for what stands below. */
    default List<String> makes() {
        return switch (this) {
            case Set set -> names(set.assignments());
            case Lookup lookup ->
                lookup.bring().stream()
                        .map(field -> lookup.name().value() + "." + field.value())
                        .toList();
            case Combine combine -> names(combine.make());
            case WideToLong wide -> List.of(wide.name().value(), wide.value().value());
            case LongToWide wide ->
                wide.columns().stream().map(column -> column.field().value()).toList();
            case Where ignored -> List.of();
            case Rule ignored -> List.of();
            case WholeLoad ignored -> List.of();
            case Duplicates ignored -> List.of();
            case Group ignored -> List.of();
            case ParentsFirst ignored -> List.of();
        };
    }

    private static List<String> names(List<Assignment> assignments) {
        return assignments.stream().map(line -> line.field().value()).toList();
    }

    /** Rows for which the formula is not true are skipped. */
    record Where(FormulaSource formula) implements Step {}

    /** New or replaced fields, one after the other. */
    record Set(List<Assignment> assignments) implements Step {}

    /** Rows for which the formula is false are rejected with the message, or warned of. */
    record Rule(FormulaSource formula, String message, boolean warning) implements Step {}

    /**
     * A record, found by a key.
     *
     * @param among where it is found
     * @param match the fields of the record, and what they must equal
     * @param bring the fields that become fields of the row, as {@code name.field}
     * @param emptyWhereNone whether the fields are null where no record is found; the row is rejected otherwise
     * @param firstOfSeveral whether the first of several records is taken; the row is rejected otherwise
     */
    record Lookup(
            Placed<String> name,
            Among among,
            List<Assignment> match,
            List<Placed<String>> bring,
            boolean emptyWhereNone,
            boolean firstOfSeveral)
            implements Step {}

    /** Where a lookup finds records. Names may hold {@code ${parameter}}. */
    sealed interface Among {
        Placed<String> connection();

        /** Among the records of a system. */
        record Records(Placed<String> connection, Placed<String> records) implements Among {}

        /**
         * Among the rows of files; the name may hold wildcards. A column that is not declared is text.
         *
         * @param sets fields that are made of each row of the file, to be matched and brought like its columns
         * @param ignoreCase whether texts of the key that differ only in case are the same
         */
        record File(
                Placed<String> connection,
                Placed<String> file,
                Format format,
                List<FieldDeclaration> fields,
                List<Assignment> sets,
                boolean ignoreCase)
                implements Among {}
    }

    /** A rule over all rows, with sums and counts; where it is false, nothing is written. */
    record WholeLoad(FormulaSource formula, String message, boolean warning) implements Step {}

    /**
     * What becomes of rows that agree in some fields.
     *
     * @param sums the fields that are added up where {@code keep} is SUM
     */
    record Duplicates(List<Placed<String>> by, Keep keep, List<Placed<String>> sums) implements Step {}

    /** Which of several equal rows goes on. */
    enum Keep {
        FIRST,
        LAST,
        SUM,
        /** All are rejected. */
        NONE
    }

    /** Rows that agree in some fields become one, with sums, counts and the like. */
    record Combine(List<Placed<String>> by, List<Assignment> make) implements Step {}

    /**
     * Every column becomes a row of its own.
     *
     * @param columns names, with {@code *} for any text
     * @param name the field that gets the column's name
     * @param value the field that gets the cell
     * @param keepBlank whether blank cells become rows too
     */
    record WideToLong(List<Placed<String>> columns, Placed<String> name, Placed<String> value, boolean keepBlank)
            implements Step {}

    /** Rows that agree in some fields become one, with a field for each name that is listed. */
    record LongToWide(List<Placed<String>> by, FormulaSource name, FormulaSource value, List<Column> columns)
            implements Step {}

    /** The field that gets the value of the row with this name. */
    record Column(Placed<String> field, String name) {}

    /**
     * Rows that agree in some fields stand together from here on.
     *
     * @param linesAlone whether a row that is rejected leaves the others of its group alone; otherwise they are written
     *     together or not at all
     */
    record Group(Placed<String> name, List<Placed<String>> by, boolean linesAlone) implements Step {
        /** Whether another row stands for its group when the first one is rejected. */
        public static boolean leadersChange(List<Step> steps) {
            return steps.stream().anyMatch(step -> step instanceof Group group && group.linesAlone);
        }
    }

    /** A row comes behind the row that its parent's key names. */
    record ParentsFirst(List<Placed<String>> key, List<Placed<String>> parent) implements Step {}
}
