package dev.nachlauf.core.run;

import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.ChangeSet;
import java.util.ArrayList;
import java.util.List;

/** Where a target has stored other values than were sent. */
final class StoredOtherwise {
    private StoredOtherwise() {}

    /** The fields of a change in which its record is not as it was sent; none where the target doesn't say what it stored. */
    static List<Integer> fields(ChangeSet changes, Answers answers, int change) {
        int cell = answers.storedAt(change);
        if (cell < 0) {
            return List.of();
        }
        byte[] told = answers.told();
        List<Integer> differing = new ArrayList<>();
        RowBlock sent = changes.rows();
        boolean all = changes.kind(change) == ChangeSet.Kind.INSERT;
        for (int field = 0; field < sent.width(); field++) {
            CellCodec codec = changes.cells().fields().get(field);
            if ((all || changes.isChanged(change, field))
                    && !codec.same(sent.data(), sent.at(change, field), told, cell)) {
                differing.add(field);
            }
            cell = CellCodec.end(told, cell);
        }
        return differing;
    }
}
