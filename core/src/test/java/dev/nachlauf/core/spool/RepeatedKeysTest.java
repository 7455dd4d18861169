package dev.nachlauf.core.spool;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class RepeatedKeysTest {
    @TempDir
    Path scratch;

    private static byte[] key(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void findsKeysFarApartAndNamesTheOtherRow() {
        try (RepeatedKeys keys = new RepeatedKeys(scratch)) {
            for (int row = 1; row <= 60_000; row++) {
                keys.add(key(row == 55_000 ? "K5000" : "K" + row), row, row);
            }
            keys.find(() -> {});
            assertThat(keys.count()).isEqualTo(2);
            assertThat(keys.otherRow(4_999)).isZero();
            assertThat(keys.otherRow(5_000)).isEqualTo(55_000);
            assertThat(keys.otherRow(55_000)).isEqualTo(5_000);
            assertThat(keys.otherRow(60_000)).isZero();
        }
    }

    @Test
    void countsEveryRowOfAKeyThatStandsThreeTimes() {
        try (RepeatedKeys keys = new RepeatedKeys(scratch)) {
            keys.add(key("a"), 1, 1);
            keys.add(key("b"), 2, 2);
            keys.add(key("a"), 3, 3);
            keys.add(key("a"), 4, 4);
            keys.find(() -> {});
            assertThat(keys.count()).isEqualTo(3);
            assertThat(keys.otherRow(1)).isEqualTo(3);
            assertThat(keys.otherRow(3)).isEqualTo(1);
            assertThat(keys.otherRow(4)).isEqualTo(1);
        }
    }

    @Test
    void sortsTheSameOnDiskAsInMemoryAndTidiesUp() throws IOException {
        Random random = new Random(7);
        List<String> expected = new ArrayList<>();
        List<String> found = new ArrayList<>();
        try (ExternalSort small = new ExternalSort(scratch, 2_000);
                ExternalSort large = new ExternalSort(scratch)) {
            for (int i = 0; i < 5_000; i++) {
                byte[] key = key(String.valueOf(random.nextInt(1_000)));
                small.add(key, i, i * 2L);
                large.add(key, i, i * 2L);
            }
            assertThat(small.piecesOnDisk()).isGreaterThan(50);
            assertThat(large.piecesOnDisk()).isZero();
            read(large.sorted(), expected);
            read(small.sorted(), found);
        }
        assertThat(found).hasSize(5_000).isEqualTo(expected);
        try (Stream<Path> left = Files.list(scratch)) {
            assertThat(left).isEmpty();
        }
    }

    private static void read(Iterator<ExternalSort.Entry> entries, List<String> into) {
        entries.forEachRemaining(entry ->
                into.add(new String(entry.key(), StandardCharsets.UTF_8) + ":" + entry.number() + ":" + entry.other()));
    }
}
