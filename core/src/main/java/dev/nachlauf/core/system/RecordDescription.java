package dev.nachlauf.core.system;

import java.util.List;
import java.util.Optional;

/**
 * What a target demands of a record type. It is a value: two descriptions are equal when nothing that a run relies on
 * has changed.
 *
 * @param writable whether records can be written at all
 * @param uniqueKeys fields or combinations that no two records share
 * @param references fields that refer to other records
 */
public record RecordDescription(
        String name,
        boolean writable,
        List<FieldDescription> fields,
        List<UniqueKey> uniqueKeys,
        List<Reference> references) {
    public RecordDescription {
        fields = List.copyOf(fields);
        uniqueKeys = List.copyOf(uniqueKeys);
        references = List.copyOf(references);
    }

    /** A unique combination of fields; {@code primary} for the system's own id. */
    public record UniqueKey(String name, List<String> fields, boolean primary) {}

    /** Fields that must be found among the {@code parentFields} of {@code parent}. */
    public record Reference(String name, List<String> fields, String parent, List<String> parentFields) {}

    /** The same record type with other fields. */
    public RecordDescription with(List<FieldDescription> others) {
        return new RecordDescription(name, writable, others, uniqueKeys, references);
    }

    /** The field of this name. */
    public Optional<FieldDescription> field(String field) {
        return fields.stream().filter(one -> one.name().equals(field)).findFirst();
    }

    /** Whether no two records share the values of these fields. */
    public boolean isUnique(List<String> key) {
        return uniqueKeys.stream().anyMatch(unique -> key.containsAll(unique.fields()));
    }

    /** The system's own id. */
    public Optional<UniqueKey> primaryKey() {
        return uniqueKeys.stream().filter(UniqueKey::primary).findFirst();
    }
}
