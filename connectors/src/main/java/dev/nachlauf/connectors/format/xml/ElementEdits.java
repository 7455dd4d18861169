package dev.nachlauf.connectors.format.xml;

import dev.nachlauf.connectors.format.nested.NestedCells;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.system.RowEdits;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Elements of a file with edits. What doesn't change stays as it is spelled; new children come behind the last one, where
 * the file has them.
 */
final class ElementEdits {
    private final String file;
    private final List<String> addresses;

    /** @param fields those of the file, in their order */
    ElementEdits(String file, List<SourceField> fields) {
        this.file = file;
        this.addresses = fields.stream().map(SourceField::address).toList();
    }

    /** The text of an element with an edit. */
    String changed(String element, RowEdits.Edit edit) {
        return new ElementSplice(file, element, new OpenCells(addresses, edit.cells(), edit.changed())).text();
    }

    /**
     * The text of a new element.
     *
     * @param like one that is named and laid out as the new one is to be
     * @param lead what stands before that one
     */
    String added(String like, String lead, @Nullable Object[] cells) {
        ElementLayout layout = ElementLayout.of(like, lead);
        return layout.element(layout.name(), "", new OpenCells(addresses, cells, NestedCells.filled(cells)));
    }
}
