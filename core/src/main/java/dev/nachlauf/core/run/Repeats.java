package dev.nachlauf.core.run;

import dev.nachlauf.core.load.LoadPlanner;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.spool.RepeatedKeys;
import dev.nachlauf.core.step.TargetRow;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Objects;
import java.util.TreeMap;

/** Keys that stand twice anywhere in a load, for each write, and the files in which their rows stand. */
final class Repeats implements AutoCloseable {
    private final List<RepeatedKeys> byWrite = new ArrayList<>();
    /** Files are read one behind the other, so the first row of each tells where all others stand. */
    private final Map<String, Long> firstRows = new HashMap<>();

    /** The same the other way round. */
    private final NavigableMap<Long, String> files = new TreeMap<>();

    private String lastFile = "";
    private long lastRow;

    Repeats(int writes, Path scratch) {
        for (int write = 0; write < writes; write++) {
            byWrite.add(new RepeatedKeys(scratch));
        }
    }

    RepeatedKeys of(int write) {
        return byWrite.get(write);
    }

    /** A row of the source was read. */
    void read(SourceRow row) {
        String file = row.origin().file();
        if (!file.equals(lastFile) || row.number() < lastRow) {
            firstRows.merge(file, row.number(), Math::min);
        }
        lastFile = file;
        lastRow = row.number();
    }

    /** All rows were read: now it can be asked for what is repeated. */
    void find(Runnable pulse) {
        firstRows.forEach((file, row) -> files.put(row, file));
        byWrite.forEach(keys -> keys.find(pulse));
    }

    /** Begins again to be asked, from the first row on. */
    void rewind() {
        byWrite.forEach(RepeatedKeys::rewind);
    }

    /** A row with what its keys, which other rows have too, say of it. */
    TargetRow checked(TargetRow row) {
        TargetRow checked = row;
        for (RepeatedKeys keys : byWrite) {
            long other = row.skipped() == null ? keys.otherRow(row.row().position()) : 0;
            if (other != 0) {
                Object[] key = Objects.requireNonNullElse(row.key(), new Object[0]);
                String own = row.row().source().origin().file();
                checked = checked.rejected(LoadPlanner.repeatedKey(key, place(other, own)));
            }
        }
        return checked;
    }

    /** A row for people, with its file where that is another one. */
    private String place(long row, String own) {
        Map.Entry<Long, String> file = files.floorEntry(row);
        return file == null || file.getValue().equals(own) ? "row " + row : "row " + row + " (" + file.getValue() + ")";
    }

    @Override
    public void close() {
        byWrite.forEach(RepeatedKeys::close);
    }
}
