package dev.nachlauf.service.run;

import dev.nachlauf.core.system.RecordDescription;
import java.util.List;

/** What a run relies on of its target, as text that can be compared. */
final class Descriptions {
    private Descriptions() {}

    /** The written fields' demands and the unique keys. */
    static String relevant(RecordDescription description, List<String> fields) {
        StringBuilder out = new StringBuilder();
        description.fields().stream()
                .filter(field -> fields.contains(field.name()))
                .forEach(field -> out.append(field).append('\n'));
        description.uniqueKeys().forEach(key -> out.append(key).append('\n'));
        return out.toString();
    }
}
