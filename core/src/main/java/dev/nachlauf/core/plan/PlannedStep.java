package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Aggregation;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.job.Step.Among;
import dev.nachlauf.core.job.Step.Keep;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.RowRanges;
import dev.nachlauf.core.value.Kind;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** A checked step: names are slots. Slots in {@code by} lists hold what rows must agree in. */
public sealed interface PlannedStep {
    /** Which step of the job it belongs to, from 0. */
    int index();

    /** Whether it looks at one row alone and asks nobody. */
    default boolean isPlain() {
        return this instanceof Chosen || this instanceof Where || this instanceof Assign || this instanceof Rule;
    }

    /** Whether rows behind it are others than those before it. */
    default boolean changesRows() {
        return switch (this) {
            case WideToLong ignored -> true;
            case LongToWide ignored -> true;
            case Combine ignored -> true;
            case Duplicates duplicates -> duplicates.keep() == Keep.SUM;
            case Chosen ignored -> false;
            case Where ignored -> false;
            case Assign ignored -> false;
            case Rule ignored -> false;
            case Lookup ignored -> false;
            case WholeLoad ignored -> false;
            case Group ignored -> false;
            case ParentsFirst ignored -> false;
        };
    }

    /** Rows that a run is about, where it isn't about all; it stands before the steps of the job. */
    record Chosen(Optional<RowRanges> rows, Optional<Formula> where) implements PlannedStep {
        @Override
        public int index() {
            return -1;
        }
    }

    record Where(int index, Formula formula) implements PlannedStep {}

    record Assign(int index, String field, int slot, Formula formula) implements PlannedStep {}

    record Rule(int index, Formula formula, String message, boolean warning) implements PlannedStep {}

    record Lookup(
            int index,
            String name,
            Finding finding,
            List<Integer> slots,
            boolean emptyWhereNone,
            boolean firstOfSeveral)
            implements PlannedStep {}

    /**
     * How a record is found.
     *
     * @param records what it is found among, for people: the record type, or the file's name
     * @param keys the fields of the record and what they must equal
     * @param fields the fields that are brought
     * @param made fields that are made of each record before it is found, where it is found in a file
     */
    record Finding(Among among, String records, List<Key> keys, List<Field> fields, List<FileField> made) {
        /** Among records as they are. */
        public Finding(Among among, String records, List<Key> keys, List<Field> fields) {
            this(among, records, keys, fields, List.of());
        }

        /** The names of the fields that are brought. */
        public List<String> wanted() {
            return fields.stream().map(Field::name).toList();
        }

        /** The connection, as it is written in the job. */
        public String connection() {
            return among.connection().value();
        }

        /** The fields of the key. */
        public List<String> keyFields() {
            return keys.stream().map(Key::field).toList();
        }
    }

    /** A field that a formula makes of the columns of a file and of what was made before it. */
    record FileField(String name, Formula formula) {}

    /** One part of a key. {@code fromText} reads the formula's text where kinds differ. */
    record Key(String field, Kind kind, Formula formula, boolean fromText) {}

    /** Calls are evaluated over the rows; the formula sees their results alone. */
    record WholeLoad(int index, List<Aggregation.Call> calls, Formula formula, String message, boolean warning)
            implements PlannedStep {}

    record Duplicates(int index, List<Integer> by, List<String> names, Keep keep, List<Integer> sums)
            implements PlannedStep {}

    /**
     * @param into where the values that rows agree in go
     * @param made the fields that are made
     */
    record Combine(int index, List<Integer> by, List<Integer> into, List<Made> made) implements PlannedStep {}

    /** A field made of many rows: its formula sees what they agree in, then the results of the calls. */
    record Made(String field, int slot, List<Aggregation.Call> calls, Formula formula) {}

    record WideToLong(int index, List<Wide> columns, Wide name, Wide value, boolean keepBlank) implements PlannedStep {}

    /** A field and its slot: a column that becomes a row or is made of rows, or what it becomes. */
    record Wide(String name, int slot) {}

    record LongToWide(
            int index, List<Integer> by, List<Integer> into, Formula name, Formula value, Map<String, Wide> columns)
            implements PlannedStep {}

    record Group(int index, String name, List<Integer> by, boolean linesAlone) implements PlannedStep {}

    record ParentsFirst(int index, List<Integer> key, List<Integer> parent) implements PlannedStep {}
}
