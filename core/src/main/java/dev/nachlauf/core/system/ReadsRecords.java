package dev.nachlauf.core.system;

import dev.nachlauf.core.record.Field;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** A system whose records can be read one after the other, in constant memory, without changing anything there. */
public interface ReadsRecords extends HoldsRecords {
    /**
     * Starts to read.
     *
     * @throws dev.nachlauf.core.problem.CannotGoOn where there are no such records, or the query is refused
     */
    RecordCursor read(RecordQuery query);

    /**
     * Whether conditions on a field let through every record of which a formula's comparison would be true. What more they
     * let through does no harm.
     */
    default boolean canFilterBy(FieldDescription field) {
        return false;
    }

    /** What to read. */
    sealed interface RecordQuery {
        /** Records of a type that meet all conditions; {@code fields} empty for all of its fields. */
        record Records(String name, List<String> fields, List<Condition> conditions) implements RecordQuery {
            /** All records of a type. */
            public Records(String name, List<String> fields) {
                this(name, fields, List.of());
            }
        }

        /** A query in the system's own language; {@code :name} stands for a parameter, which is bound, never pasted. */
        record Statement(String text, Map<String, @Nullable Object> parameters) implements RecordQuery {}
    }

    /** What a record must meet to be read. */
    sealed interface Condition {
        String field();

        /** The field is a value or greater. */
        record AtLeast(String field, Object value) implements Condition {}

        /** The field is one of some values; there is at least one. */
        record Among(String field, List<Object> values) implements Condition {}
    }

    /** Records, one after the other. */
    interface RecordCursor extends AutoCloseable {
        /** The fields, which is also the order of the values. */
        List<Field> fields();

        /** The next record; null at the end. */
        @Nullable
        Object @Nullable [] next();

        @Override
        void close();
    }
}
