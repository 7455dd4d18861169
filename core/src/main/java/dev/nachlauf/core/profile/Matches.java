package dev.nachlauf.core.profile;

import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Target;
import java.util.List;
import java.util.stream.IntStream;

/** Asks a target that was opened for the fields of a key alone how many records each key has. */
final class Matches {
    private Matches() {}

    /** By the place of the key: 0, 1, or more for several. */
    static int[] of(Target target, List<Object[]> keys) {
        int width = target.cells().fields().size();
        RowBlock.Builder block = new RowBlock.Builder(width, keys.size());
        for (Object[] key : keys) {
            for (int part = 0; part < width; part++) {
                block.add(key[part], target.cells().fields().get(part));
            }
        }
        int[] matches = new int[keys.size()];
        target.find(block.build(), IntStream.range(0, keys.size()).toArray(), (key, record) -> matches[key]++);
        return matches;
    }
}
