package dev.nachlauf.core.system;

import java.util.List;

/**
 * What a run does with a target.
 *
 * @param key the fields by which records are found
 * @param fields all fields that the run writes, the key's among them; changes carry their values in this order
 * @param inserts whether a record is made where none has the key, so that the target hears of it when that is wrong
 * @param identity the fields that tell a record from all others where its type has no primary key
 */
public record TargetUse(List<String> key, List<String> fields, boolean inserts, List<String> identity) {
    /** A use that finds records by the external key. */
    public TargetUse(List<String> key, List<String> fields, boolean inserts) {
        this(key, fields, inserts, key);
    }

    /** A use that only looks at records, or changes those that are there. */
    public TargetUse(List<String> key, List<String> fields) {
        this(key, fields, false);
    }

    /** The same records, found by other fields, of which several may share the values. */
    public TargetUse foundBy(List<String> others) {
        return new TargetUse(others, fields, inserts, identity);
    }

    public TargetUse {
        key = List.copyOf(key);
        fields = List.copyOf(fields);
        identity = List.copyOf(identity);
        if (!fields.containsAll(key)) {
            throw new IllegalArgumentException("the key's fields are among the fields that are written");
        }
    }
}
