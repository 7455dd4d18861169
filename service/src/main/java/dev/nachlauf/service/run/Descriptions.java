package dev.nachlauf.service.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import java.util.List;

/** What a run relies on of its target, as text that can be compared. */
final class Descriptions {
    private Descriptions() {}

    /** The written fields' demands and the unique keys of all writes. */
    static String relevant(Plan plan) {
        StringBuilder out = new StringBuilder();
        for (PlannedWrite write : plan.writes()) {
            List<String> fields = write.fieldNames();
            write.target().fields().stream()
                    .filter(field -> fields.contains(field.name()))
                    .forEach(field -> out.append(text(field)).append('\n'));
            write.target().uniqueKeys().forEach(key -> out.append(text(key)).append('\n'));
        }
        return out.toString();
    }

    /** Kept with runs and compared later, so its form stays whatever becomes of the types. */
    private static String text(FieldDescription field) {
        return "FieldDescription[name=%s, kind=%s, typeName=%s, length=%s, precision=%s, scale=%s, integerBytes=%s,"
                        .formatted(
                                field.name(),
                                field.kind(),
                                field.typeName(),
                                field.length(),
                                field.precision(),
                                field.scale(),
                                field.integerBytes())
                + " nullable=%s, required=%s, readOnly=%s, readOnlyReason=%s, generated=%s, allowed=%s, sensitive=%s]"
                        .formatted(
                                field.traits().mayBeCleared(),
                                field.required(),
                                field.readOnly(),
                                field.traits().closed(),
                                field.generated(),
                                field.allowed(),
                                field.sensitive());
    }

    private static String text(UniqueKey key) {
        return "UniqueKey[name=%s, fields=%s, primary=%s]".formatted(key.name(), key.fields(), key.primary());
    }
}
