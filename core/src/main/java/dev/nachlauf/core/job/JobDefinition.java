package dev.nachlauf.core.job;

import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.core.value.Values;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What a job file says.
 *
 * @param pieces the documents of shared formulas and steps that it includes
 * @param writes in order; there is at least one
 */
public record JobDefinition(
        String name,
        String title,
        String notes,
        List<Placed<String>> pieces,
        List<Parameter> parameters,
        Read read,
        List<Step> steps,
        List<Write> writes,
        Limits limits,
        Guards guards,
        ControlTotals totals,
        Optional<PutBack> putBack,
        List<Tell> tells,
        List<Example> examples) {
    public JobDefinition {
        pieces = List.copyOf(pieces);
        parameters = List.copyOf(parameters);
        steps = List.copyOf(steps);
        writes = List.copyOf(writes);
        tells = List.copyOf(tells);
        examples = List.copyOf(examples);
    }

    /** The write that a list shows: the one marked as main, else the first. */
    public Write write() {
        return writes.stream().filter(Write::main).findFirst().orElse(writes.getFirst());
    }

    /**
     * A value that may differ from run to run.
     *
     * @param defaultValue null where it has to be given, unless {@code required} is false
     * @param allowed the values that it may have; empty for all
     * @param required whether a run can't start without a value
     * @param list whether several values are given, separated by commas or lines
     * @param ask the question that a person is asked; empty for the name
     */
    public record Parameter(
            Placed<String> name,
            Kind kind,
            @Nullable Object defaultValue,
            List<Object> allowed,
            boolean required,
            boolean list,
            String ask) {}

    /**
     * Where rows come from. Names may hold {@code ${parameter}}.
     *
     * @param again whether files are read that an earlier run has loaded already
     * @param trailer the figures of a closing line that are checked; empty where there is none
     * @param changedSince the field that tells when a record was changed; only what is new since the last finished run
     *     is read then
     * @param keys the list of keys to which reading is held; empty for all records
     */
    public record Read(
            Placed<String> connection,
            From from,
            Format format,
            List<FieldDeclaration> fields,
            boolean again,
            Optional<Trailer> trailer,
            Optional<ChangedSince> changedSince,
            Optional<KeyList> keys) {}

    /**
     * The field that tells when a record was changed.
     *
     * @param overlap how far before the greatest value seen reading begins again, for records that are committed late
     */
    public record ChangedSince(Placed<String> field, Duration overlap) {}

    /** Records whose field has one of the values of a parameter. */
    public record KeyList(Placed<String> field, Placed<String> parameter) {}

    /** What is read of a connection. */
    public sealed interface From {
        /** As it is written in the job. */
        Placed<String> text();

        /** Files; the name may hold wildcards. */
        record File(Placed<String> text) implements From {}

        /** A file that is given to each run; the text says which, for people. */
        record Upload(Placed<String> text) implements From {}

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

    /** A field's declared kind. {@code pattern} is for dates, times and truths, {@code locale} for numbers. */
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

    /** One line of set, make or match. */
    public record Assignment(Placed<String> field, FormulaSource formula) {}

    /**
     * Where rows go.
     *
     * @param when rows for which it is not true are not taken; empty takes all
     * @param once the name of a group whose first row stands for it; empty takes every row
     * @param sameNames maps every field of the target that has the name of a field above, and is not in the map
     * @param except what {@code sameNames} leaves alone
     * @param skipsUnmet whether a row is skipped, and not rejected, whose record is already there for an insert, or not
     *     found for an update
     * @param replacing what becomes of records that the source no longer has; empty where they are left alone
     * @param issue how a file is written; empty for writes of records, otherwise {@code records} is the file's name
     * @param turn whether another write takes the rows whose key has an empty part
     */
    public record Write(
            String name,
            Placed<String> connection,
            Placed<String> records,
            Action action,
            boolean main,
            Optional<FormulaSource> when,
            Optional<Placed<String>> once,
            List<Placed<String>> key,
            List<Mapping> map,
            boolean sameNames,
            List<String> except,
            boolean skipsUnmet,
            Optional<Replacing> replacing,
            Optional<Issue> issue,
            Turn turn) {
        /** The same for rows whose key has an empty part: it finds their records by another key. */
        Write second(List<Placed<String>> other) {
            String by = other.stream().map(Placed::value).collect(Collectors.joining(" + "));
            return new Write(
                    name + " (by " + by + ")",
                    connection,
                    records,
                    action,
                    false,
                    when,
                    once,
                    other,
                    map,
                    sameNames,
                    except,
                    skipsUnmet,
                    replacing,
                    issue,
                    Turn.SECOND);
        }
    }

    /** Which rows a write takes where a job names a second key. */
    public enum Turn {
        /** No second key is named. */
        ALONE,
        /** A row whose key has an empty part is left to the write that follows. */
        FIRST,
        /** Takes what the write before has left to it. */
        SECOND
    }

    /** What a write does with a row. */
    public enum Action {
        /** Makes a new record; a row whose record is already there is rejected or skipped. */
        INSERT,
        /** Changes the record that has the key, or makes a new one. */
        UPSERT,
        /** Changes the record that has the key; a row that finds none is rejected or skipped. */
        UPDATE,
        /** Removes the record that has the key; where none has it, nothing is to be done. */
        DELETE,
        /** Changes the record that has the key, or makes a new one; what the source no longer has goes. */
        REPLACE,
        /** Puts each row into a file that is handed over; nobody can ask it back. */
        ISSUE;

        /** Whether a record is made where none has the key. */
        public boolean inserts() {
            return this == INSERT || this == UPSERT || this == REPLACE || this == ISSUE;
        }
    }

    /**
     * One line of map.
     *
     * @param off kept in the job, but without effect
     */
    public record Mapping(Placed<String> field, Value value, WriteRule rule, boolean leaveBlank, boolean off) {}

    /** What a field becomes. */
    public sealed interface Value {
        record Of(FormulaSource formula) implements Value {}

        /**
         * The id of the record that has a key.
         *
         * @param bring the field of the parent that is taken; empty for its id
         */
        record Reference(Placed<String> records, List<Assignment> by, Optional<Placed<String>> bring)
                implements Value {}
    }

    /** When a field is written. */
    public enum WriteRule {
        ALWAYS,
        /** Only where the record has nothing there. */
        IF_EMPTY,
        /** Only for new records. */
        ON_INSERT;

        /** The word in a job. */
        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
        }
    }

    /**
     * A row and what must become of it.
     *
     * @param given the fields of the source
     * @param lookups what a lookup brings, by its name; a lookup that is not here finds nothing
     * @param crosswalks translations by crosswalk, beside those that exist
     * @param expected what becomes of it
     */
    public record Example(
            String name,
            Place place,
            Map<String, String> given,
            Map<String, String> parameters,
            Map<String, Map<String, String>> lookups,
            Map<String, Map<String, String>> crosswalks,
            Expected expected) {}

    /** What must become of an example's row. */
    public sealed interface Expected {
        /** Fields of the target; those that are not named may be anything. Null for a field that must be empty. */
        record Becomes(String write, Map<String, @Nullable String> fields) implements Expected {}

        record RejectedWith(String code) implements Expected {}

        record Skipped() implements Expected {}
    }

    /** Replaces {@code ${name}} by the parameter's value, by nothing where it has none. */
    public static String fill(String text, Map<String, @Nullable Object> parameters) {
        String filled = text;
        for (Map.Entry<String, @Nullable Object> parameter : parameters.entrySet()) {
            filled = filled.replace(
                    "${" + parameter.getKey() + "}", Objects.requireNonNullElse(Values.text(parameter.getValue()), ""));
        }
        return filled;
    }
}
