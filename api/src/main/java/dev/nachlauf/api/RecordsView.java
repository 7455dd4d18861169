package dev.nachlauf.api;

import java.util.List;

/** What a record type demands. {@code uniqueKeys} are the combinations that can serve as an external key. */
public record RecordsView(String name, boolean writable, List<FieldView> fields, List<List<String>> uniqueKeys) {}
