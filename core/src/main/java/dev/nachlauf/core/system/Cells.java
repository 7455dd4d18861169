package dev.nachlauf.core.system;

import dev.nachlauf.core.record.CellCodec;
import java.util.Collections;
import java.util.List;

/**
 * How a target spells its records.
 *
 * @param fields one codec for each of {@link TargetUse#fields}
 * @param key the places of the key's fields among them
 * @param id one codec for each part of what identifies a record
 * @param mark the codec of what changes whenever the record does
 */
public record Cells(List<CellCodec> fields, List<Integer> key, List<CellCodec> id, CellCodec mark) {
    public Cells {
        fields = List.copyOf(fields);
        key = List.copyOf(key);
        id = List.copyOf(id);
    }

    /** The cells of a target without a spelling of its own; its records are identified by one value. */
    public static Cells plain(TargetUse use) {
        return new Cells(
                Collections.nCopies(use.fields().size(), CellCodec.ANY),
                use.key().stream().map(use.fields()::indexOf).toList(),
                List.of(CellCodec.ANY),
                CellCodec.ANY);
    }

    /** Where an id ends whose cells begin here. */
    public int idEnd(byte[] data, int at) {
        int cell = at;
        for (int part = 0; part < id.size(); part++) {
            cell = CellCodec.end(data, cell);
        }
        return cell;
    }
}
