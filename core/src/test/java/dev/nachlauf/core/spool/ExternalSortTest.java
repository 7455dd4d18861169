package dev.nachlauf.core.spool;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ExternalSortTest {
    @TempDir
    private Path scratch;

    private long filesInScratch() throws IOException {
        try (Stream<Path> files = Files.list(scratch)) {
            return files.count();
        }
    }

    @Test
    void morePiecesThanCanBeOpenAtOnceComeOutInOrder() throws IOException {
        Random random = new Random(20261123);
        int entries = 5 * ExternalSort.MOST_OPEN * 4;
        try (ExternalSort sort = new ExternalSort(scratch, 250)) {
            for (int i = 0; i < entries; i++) {
                sort.add(new byte[] {(byte) random.nextInt(256)}, i, -i, ("payload " + i).getBytes());
            }
            assertThat(sort.piecesOnDisk()).isGreaterThan(3 * ExternalSort.MOST_OPEN);
            Iterator<ExternalSort.Entry> sorted = sort.sorted();
            assertThat(filesInScratch()).as("pieces behind the rounds").isLessThanOrEqualTo(ExternalSort.MOST_OPEN);
            List<Long> numbers = new ArrayList<>();
            int before = -1;
            long numberBefore = -1;
            while (sorted.hasNext()) {
                ExternalSort.Entry entry = sorted.next();
                int key = entry.key()[0] & 0xFF;
                assertThat(key).isGreaterThanOrEqualTo(before);
                if (key == before) {
                    assertThat(entry.number()).as("in the order of the source").isGreaterThan(numberBefore);
                }
                assertThat(entry.other()).isEqualTo(-entry.number());
                assertThat(entry.payload()).isEqualTo(("payload " + entry.number()).getBytes());
                before = key;
                numberBefore = entry.number();
                numbers.add(entry.number());
            }
            assertThat(numbers).hasSize(entries).doesNotHaveDuplicates();
        }
        assertThat(filesInScratch()).isZero();
    }

    @Test
    void aSmallLoadNeverTouchesTheDisk() throws IOException {
        try (ExternalSort sort = new ExternalSort(scratch)) {
            for (int i = 100; i > 0; i--) {
                sort.add(new byte[] {(byte) i}, i, 0);
            }
            assertThat(sort.sorted().next().number()).isEqualTo(1);
            assertThat(filesInScratch()).isZero();
        }
    }
}
