package dev.nachlauf.connectors.format.xml;

import java.util.BitSet;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What is to be written.
 *
 * @param addresses of all cells: paths below the record
 * @param open the cells that still have to find their place
 */
record OpenCells(List<String> addresses, @Nullable Object[] values, BitSet open) {
    OpenCells {
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
