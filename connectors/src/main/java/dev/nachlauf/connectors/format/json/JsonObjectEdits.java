package dev.nachlauf.connectors.format.json;

import dev.nachlauf.connectors.format.nested.NestedCells;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.system.RowEdits;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Objects of a file with edits. Members that don't change stay as they are spelled; new ones come behind the last, where
 * the file has them.
 */
final class JsonObjectEdits {
    private final String file;
    private final List<String> addresses;

    /** @param fields those of the file, in their order */
    JsonObjectEdits(String file, List<SourceField> fields) {
        this.file = file;
        this.addresses = fields.stream().map(SourceField::address).toList();
    }

    /** The text of an object with an edit. */
    String changed(String object, RowEdits.Edit edit) {
        return new JsonSplice(file, object, addresses, edit).text();
    }

    /** The text of a new object. */
    String added(@Nullable Object[] cells) {
        return JsonMembers.compact(addresses, cells).object("", NestedCells.filled(cells));
    }
}
