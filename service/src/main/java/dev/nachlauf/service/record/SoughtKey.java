package dev.nachlauf.service.record;

import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.value.Values;
import java.util.List;
import java.util.Objects;
import java.util.function.BiPredicate;

/**
 * A key that is looked for.
 *
 * @param alike whether two keys that differ to us are equal to the target
 */
record SoughtKey(List<String> fields, List<Object> values, BiPredicate<List<Object>, List<Object>> alike) {
    /** Whether a line is about the record with this key. */
    boolean is(LedgerRow line) {
        if (line.key() == null) {
            return false;
        }
        List<Object> key = line.key().subList(0, fields.size());
        boolean same = true;
        for (int part = 0; part < key.size(); part++) {
            same &= Objects.equals(Values.text(key.get(part)), Values.text(values.get(part)));
        }
        return same || alike.test(key, values);
    }
}
