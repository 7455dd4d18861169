package dev.nachlauf.core.source;

import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.SourceFormat.Lack;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * Several files one after the other as one source. Fields are matched by name, for files may order them differently;
 * rows are numbered through. Only one file is open at a time.
 */
public final class JoinedReader implements SourceReader {
    private final List<SourceField> fields;
    private final Iterator<Supplier<SourceReader>> files;
    private @Nullable SourceReader current;
    private int[] places = {};
    private Map<String, String> addresses = Map.of();
    private boolean sameOrder;
    private long number;
    private List<Kind> kinds = List.of();
    private @Nullable BitSet needed;

    /**
     * Opens the first file when the first row is asked for.
     *
     * @param fields the fields of all files together
     */
    public JoinedReader(List<SourceField> fields, List<Supplier<SourceReader>> files) {
        this.fields = List.copyOf(fields);
        this.files = List.copyOf(files).iterator();
    }

    /** The fields of several files together, each name once, in the order in which they first occur. */
    public static List<SourceField> union(List<List<SourceField>> files) {
        Map<String, SourceField> union = new java.util.LinkedHashMap<>();
        files.forEach(fields -> fields.forEach(field -> union.putIfAbsent(field.name(), field)));
        return List.copyOf(union.values());
    }

    @Override
    public List<SourceField> fields() {
        return fields;
    }

    @Override
    public List<Detected> options() {
        return List.of();
    }

    /** Those of the last file that was opened, where its fields stand in the same order. */
    @Override
    public List<Kind> kinds() {
        return kinds;
    }

    @Override
    public void needOnly(BitSet columns) {
        needed = columns;
        if (current != null) {
            tellNeeds(current);
        }
    }

    private void tellNeeds(SourceReader reader) {
        if (needed != null) {
            BitSet own = new BitSet();
            for (int i = 0; i < places.length; i++) {
                own.set(i, places[i] >= 0 && needed.get(places[i]));
            }
            reader.needOnly(own);
        }
    }

    @Override
    public @Nullable SourceRow next() {
        while (current != null || files.hasNext()) {
            SourceReader reader = current == null ? open() : current;
            SourceRow row = reader.next();
            if (row != null) {
                number++;
                return placed(row);
            }
            close();
        }
        return null;
    }

    private SourceReader open() {
        SourceReader reader = files.next().get();
        current = reader;
        Map<String, Integer> byName = new HashMap<>();
        for (int i = 0; i < fields.size(); i++) {
            byName.put(fields.get(i).name(), i);
        }
        List<SourceField> own = reader.fields();
        places = new int[own.size()];
        sameOrder = own.size() == fields.size();
        kinds = own.equals(fields) ? reader.kinds() : List.of();
        addresses = new HashMap<>();
        for (int i = 0; i < own.size(); i++) {
            places[i] = byName.getOrDefault(own.get(i).name(), -1);
            sameOrder &= places[i] == i;
            addresses.put(own.get(i).name(), own.get(i).address());
        }
        tellNeeds(reader);
        return reader;
    }

    /** A row with problems keeps its cells as they are: they are shown, not read. */
    private SourceRow placed(SourceRow row) {
        if (sameOrder || !row.problems().isEmpty()) {
            return row.number() == number ? row : row.numbered(number);
        }
        @Nullable Object[] cells = new Object[fields.size()];
        for (int i = 0; i < places.length; i++) {
            if (places[i] >= 0) {
                cells[places[i]] = row.cell(i);
            }
        }
        return new SourceRow(number, row.origin().within(addresses), cells, row.problems());
    }

    @Override
    public void close() {
        if (current != null) {
            current.close();
            current = null;
        }
    }

    /** The places of a list of files that lack some of the fields. */
    public static List<Lack> lacks(List<SourceField> union, Map<String, List<SourceField>> files) {
        List<Lack> lacks = new ArrayList<>();
        files.forEach((file, own) -> {
            List<String> names = own.stream().map(SourceField::name).toList();
            List<String> missing = union.stream()
                    .map(SourceField::name)
                    .filter(name -> !names.contains(name))
                    .toList();
            if (!missing.isEmpty()) {
                lacks.add(new Lack(file, missing));
            }
        });
        return lacks;
    }
}
