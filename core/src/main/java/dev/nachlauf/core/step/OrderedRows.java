package dev.nachlauf.core.step;

import dev.nachlauf.core.spool.ExternalSort;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Rows from several places in the order of the source: single ones, those that mergers make, and those of a flow. */
final class OrderedRows implements AutoCloseable {
    private final ExternalSort single;
    private final List<Head> heads = new ArrayList<>();
    private @Nullable RowFlow flow;
    private boolean begun;

    OrderedRows(Path scratch) {
        single = new ExternalSort(scratch);
    }

    /** Adds a row. */
    void add(FlowRow row) {
        single.add(
                ByteBuffer.allocate(Long.BYTES).putLong(row.group()).array(), row.position(), 0, FlowCodec.encode(row));
    }

    /** Adds the rows of mergers, which come in the order of the source; each is made when its turn comes. */
    void add(Iterator<Merger> mergers) {
        heads.add(new Head() {
            @Override
            @Nullable
            FlowRow more() {
                FlowRow made = mergers.hasNext() ? mergers.next().made() : null;
                return made;
            }
        });
    }

    /** Adds the rows of a flow in that order. */
    void add(RowFlow rows) {
        flow = rows;
        heads.add(new Head() {
            @Override
            @Nullable
            FlowRow more() {
                return rows.next();
            }
        });
    }

    /** Where rows come from, and the next one. */
    private abstract static class Head {
        private @Nullable FlowRow next;

        abstract @Nullable FlowRow more();

        final void advance() {
            next = more();
        }
    }

    private void begin() {
        begun = true;
        Iterator<ExternalSort.Entry> sorted = single.sorted();
        heads.add(new Head() {
            @Override
            @Nullable
            FlowRow more() {
                return sorted.hasNext() ? FlowCodec.decode(sorted.next().payload()) : null;
            }
        });
        heads.forEach(Head::advance);
    }

    /** The next row; null at the end. */
    @Nullable
    FlowRow next() {
        if (!begun) {
            begin();
        }
        Head first = null;
        for (Head head : heads) {
            if (head.next != null && (first == null || first.next == null || isBefore(head.next, first.next))) {
                first = head;
            }
        }
        if (first == null) {
            return null;
        }
        FlowRow row = first.next;
        first.advance();
        return row;
    }

    /** Rows stand behind the one that leads their group. */
    private static boolean isBefore(FlowRow one, FlowRow other) {
        return one.group() != other.group() ? one.group() < other.group() : one.position() < other.position();
    }

    /** How many source rows the flow has read. */
    long read() {
        return flow == null ? 0 : flow.read();
    }

    @Override
    public void close() {
        single.close();
        if (flow != null) {
            flow.close();
        }
    }
}
