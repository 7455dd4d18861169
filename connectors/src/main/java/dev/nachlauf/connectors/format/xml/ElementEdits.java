package dev.nachlauf.connectors.format.xml;

import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.system.RowEdits;
import java.util.BitSet;
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
        return new ElementSplice(file, element, new Cells(addresses, edit.cells(), edit.changed())).text();
    }

    /**
     * The text of a new element.
     *
     * @param like one that is named and laid out as the new one is to be
     * @param lead what stands before that one
     */
    String added(String like, String lead, @Nullable Object[] cells) {
        BitSet filled = new BitSet();
        for (int cell = 0; cell < cells.length; cell++) {
            filled.set(cell, cells[cell] != null);
        }
        Layout layout = Layout.of(like, lead);
        return layout.element(layout.name(), "", new Cells(addresses, cells, filled));
    }

    /**
     * What is to be written.
     *
     * @param addresses of all cells: paths below the record
     * @param open the cells that still have to find their place
     */
    record Cells(List<String> addresses, @Nullable Object[] values, BitSet open) {
        Cells {
            open = (BitSet) open.clone();
        }

        /** Takes the cell of an address; -1 where none is open. */
        int take(String address) {
            int cell = addresses.indexOf(address);
            if (cell < 0 || !open.get(cell)) {
                return -1;
            }
            open.clear(cell);
            return cell;
        }

        /** The names of the open attributes of an element. */
        List<String> attributes(String address) {
            String start = address + "/@";
            return open.stream()
                    .mapToObj(addresses::get)
                    .filter(open -> open.startsWith(start))
                    .map(open -> open.substring(start.length()))
                    .toList();
        }

        /** The names of the children that are open, or that have something open in them. */
        List<String> children(String address) {
            String start = address + "/";
            return open.stream()
                    .mapToObj(addresses::get)
                    .filter(open -> open.startsWith(start) && open.charAt(start.length()) != '@')
                    .map(open -> open.substring(start.length()).replaceFirst("/.*", ""))
                    .distinct()
                    .toList();
        }
    }

    /**
     * How new elements are spelled.
     *
     * @param name of a record, with its prefix
     * @param prefix of its children
     * @param lead what stands before each child
     * @param end what stands before the end of a record
     */
    record Layout(String name, String prefix, String lead, String end) {
        private static Layout of(String like, String lead) {
            StartTag tag = new StartTag(like.substring(0, like.indexOf('>') + 1));
            String inner = like.substring(tag.text().length());
            int first = inner.indexOf('<');
            String blanks = first > 0 && inner.substring(0, first).isBlank() ? inner.substring(0, first) : "";
            return new Layout(tag.name(), tag.prefix(), blanks, blanks.isEmpty() ? "" : lead);
        }

        /** An element with all that is open for it. */
        String element(String tag, String address, Cells cells) {
            StartTag start = new StartTag("<" + tag + ">");
            for (String attribute : cells.attributes(address)) {
                Object value = cells.values()[cells.take(address + "/@" + attribute)];
                start = start.with(attribute, XmlText.quoted(value));
            }
            int own = cells.take(address);
            String text = own < 0 ? "" : XmlText.escaped(cells.values()[own]);
            boolean record = address.isEmpty();
            String children = children(address, record ? lead : "", cells);
            return start.text() + text + children + (record && !children.isEmpty() ? end : "") + "</" + tag + ">";
        }

        /** The children that are open for an element. */
        String children(String address, String before, Cells cells) {
            StringBuilder children = new StringBuilder();
            for (String child : cells.children(address)) {
                children.append(before).append(element(prefix + child, address + "/" + child, cells));
            }
            return children.toString();
        }
    }
}
