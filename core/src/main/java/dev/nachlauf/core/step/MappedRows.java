package dev.nachlauf.core.step;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.nio.file.Path;
import org.jspecify.annotations.Nullable;

/** Rows of a source behind the steps and the maps of a plan, for whoever only looks: nothing is written. */
public final class MappedRows implements AutoCloseable {
    private final RowFlow flow;
    private final Mapper mapper;

    private MappedRows(RowFlow flow, Mapper mapper) {
        this.flow = flow;
        this.mapper = mapper;
    }

    /**
     * Begins at the first row.
     *
     * @param source closed at the end
     * @param finder answers lookups
     * @param scratch a folder for what spills to disk
     */
    public static MappedRows of(Plan plan, SourceReader source, RecordFinder finder, Path scratch) {
        return new MappedRows(Shaping.flow(plan, source, finder, scratch, warning -> {}), new Mapper(plan));
    }

    /** The next row; null at the end. */
    public @Nullable TargetRow next() {
        FlowRow row = flow.next();
        return row == null ? null : mapper.map(row);
    }

    /** Maps what depends on results of earlier writes. */
    public Mapper mapper() {
        return mapper;
    }

    @Override
    public void close() {
        flow.close();
    }
}
