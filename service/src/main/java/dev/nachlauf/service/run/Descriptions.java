package dev.nachlauf.service.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
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
                    .forEach(field -> out.append(field).append('\n'));
            write.target().uniqueKeys().forEach(key -> out.append(key).append('\n'));
        }
        return out.toString();
    }
}
