package dev.nachlauf.core.system;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Our own marks on the fields of a connection.
 *
 * @param fields by record type and field
 */
public record Marks(Map<String, Map<String, FieldMark>> fields) {
    /** Nothing is marked. */
    public static final Marks NONE = new Marks(Map.of());

    public Marks {
        fields = Map.copyOf(fields);
    }

    /** The mark of a field. */
    public FieldMark of(String records, String field) {
        return fields.getOrDefault(records, Map.of()).getOrDefault(field, FieldMark.NONE);
    }

    /** The fields of a record type whose values are kept from those who look. */
    public Set<String> sensitive(String records) {
        return fields.getOrDefault(records, Map.of()).entrySet().stream()
                .filter(field -> field.getValue().sensitive())
                .map(Map.Entry::getKey)
                .collect(Collectors.toUnmodifiableSet());
    }

    /** The description with what is marked: jobs see one picture, whoever says it. */
    public RecordDescription on(RecordDescription description) {
        return fields.containsKey(description.name())
                ? description.with(description.fields().stream()
                        .map(field -> marked(field, of(description.name(), field.name())))
                        .toList())
                : description;
    }

    private static FieldDescription marked(FieldDescription field, FieldMark mark) {
        FieldDescription open = mark.sensitive() ? field.kept() : field;
        return mark.written() || open.readOnly() ? open : open.closed("the connection marks it as not to be written");
    }

    /** Marked fields that a record type does not have, in order. */
    public List<String> unknown(RecordDescription description) {
        return fields.getOrDefault(description.name(), Map.of()).keySet().stream()
                .filter(name -> description.field(name).isEmpty())
                .sorted()
                .toList();
    }
}
