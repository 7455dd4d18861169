package dev.nachlauf.core.record;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * The slots of a row in order. A name means the last slot that has it, so a step can replace a field. Names are found
 * exactly, else ignoring case where that is unique.
 */
public final class Shape {
    private final List<Field> fields;
    private final Map<String, Integer> slots = new LinkedHashMap<>();

    public Shape(List<Field> fields) {
        this.fields = List.copyOf(fields);
        for (int i = 0; i < fields.size(); i++) {
            slots.put(fields.get(i).name(), i);
        }
    }

    /** This shape and one more slot. */
    public Shape with(Field field) {
        List<Field> more = new ArrayList<>(fields);
        more.add(field);
        return new Shape(more);
    }

    /** All slots in order. */
    public List<Field> fields() {
        return fields;
    }

    /** Every name once. */
    public List<String> names() {
        return List.copyOf(slots.keySet());
    }

    /** The slots that a name can mean: one where it is found, none or several otherwise. */
    public List<Integer> find(String name, boolean exactOnly) {
        Integer slot = slots.get(name);
        if (slot != null) {
            return List.of(slot);
        }
        if (exactOnly) {
            return List.of();
        }
        String folded = name.toLowerCase(Locale.ROOT);
        return slots.entrySet().stream()
                .filter(entry -> entry.getKey().toLowerCase(Locale.ROOT).equals(folded))
                .map(Map.Entry::getValue)
                .toList();
    }
}
