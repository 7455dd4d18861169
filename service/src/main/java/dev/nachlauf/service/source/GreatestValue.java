package dev.nachlauf.service.source;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.look.RowWatch;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Lets records pass and notes the greatest value of one field. */
final class GreatestValue implements RecordCursor {
    private final RecordCursor records;
    private final int index;
    private @Nullable Object greatest;

    GreatestValue(RecordCursor records, @Nullable String field) {
        this.records = records;
        List<String> names = records.fields().stream().map(Field::name).toList();
        this.index = field == null ? -1 : names.indexOf(field);
        if (field != null && index < 0) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FIELD_UNKNOWN,
                    "The records have no field " + field + " that could tell when they were changed.",
                    NearestNames.suggestion(field, names, "Fields: " + String.join(", ", names) + ".")));
        }
    }

    /** The canonical text of the greatest value; null where there is none. */
    @Nullable
    String text() {
        return Values.text(greatest);
    }

    @Override
    public List<Field> fields() {
        return records.fields();
    }

    @Override
    public @Nullable Object @Nullable [] next() {
        RowWatch.row();
        Object[] record = records.next();
        Object value = record == null || index < 0 ? null : record[index];
        if (value != null && (greatest == null || Values.compare(value, greatest) > 0)) {
            greatest = value;
        }
        return record;
    }

    @Override
    public void close() {
        records.close();
    }
}
