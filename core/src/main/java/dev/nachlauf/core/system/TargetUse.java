package dev.nachlauf.core.system;

import java.util.List;

/**
 * What a run does with a target.
 *
 * @param key the fields of the external key
 * @param fields all fields that the run writes, the key's among them; changes carry their values in this order
 */
public record TargetUse(List<String> key, List<String> fields) {
    public TargetUse {
        key = List.copyOf(key);
        fields = List.copyOf(fields);
        if (key.isEmpty() || !fields.containsAll(key)) {
            throw new IllegalArgumentException("the key's fields are among the fields that are written");
        }
    }
}
