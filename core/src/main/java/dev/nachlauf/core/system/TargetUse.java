package dev.nachlauf.core.system;

import java.util.List;

/**
 * What a run does with a target.
 *
 * @param key the fields of the external key
 * @param fields all fields that the run writes, the key's among them; changes carry their values in this order
 * @param inserts whether a record is made where none has the key, so that the target hears of it when that is wrong
 */
public record TargetUse(List<String> key, List<String> fields, boolean inserts) {
    /** A use that only looks at records, or changes those that are there. */
    public TargetUse(List<String> key, List<String> fields) {
        this(key, fields, false);
    }

    public TargetUse {
        key = List.copyOf(key);
        fields = List.copyOf(fields);
        if (key.isEmpty() || !fields.containsAll(key)) {
            throw new IllegalArgumentException("the key's fields are among the fields that are written");
        }
    }
}
