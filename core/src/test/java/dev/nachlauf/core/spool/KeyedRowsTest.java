package dev.nachlauf.core.spool;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class KeyedRowsTest {
    @TempDir
    private Path scratch;

    private static byte[] bytes(String text) {
        return text.getBytes(UTF_8);
    }

    private static List<String> found(KeyedRows rows, String... keys) {
        return rows.find(Stream.of(keys).map(KeyedRowsTest::bytes).toList()).stream()
                .map(match -> match.count() + " " + new String(match.first(), UTF_8))
                .toList();
    }

    @Test
    void everyRowOfManyBlocksIsFoundAndNothingElseIs() throws IOException {
        int many = 3_000;
        try (KeyedRows rows = new KeyedRows(scratch, 10_000, 500)) {
            for (int i = 0; i < many; i++) {
                int shuffled = i * 7 % many;
                rows.add(bytes("H-" + shuffled), i, bytes("hut " + shuffled));
            }
            rows.finish();
            List<byte[]> keys =
                    IntStream.range(0, many).mapToObj(i -> bytes("H-" + i)).toList();
            List<KeyedRows.Match> found = rows.find(keys);
            for (int i = 0; i < many; i++) {
                assertThat(found.get(i).count()).isEqualTo(1);
                assertThat(new String(found.get(i).first(), UTF_8)).isEqualTo("hut " + i);
            }
            assertThat(found(rows, "", "A", "H-30000", "H-1x", "Z")).containsExactly("0 ", "0 ", "0 ", "0 ", "0 ");
        }
        try (Stream<Path> left = Files.list(scratch)) {
            assertThat(left).as("what is left on disk").isEmpty();
        }
    }

    @Test
    void severalRowsUnderAKeyAreToldAndTheFirstOneThatWasAddedCounts() {
        // a block for every row or two, so that equal keys stand on both sides of its end
        try (KeyedRows rows = new KeyedRows(scratch, 10_000, 20)) {
            rows.add(bytes("b"), 1, bytes("second key"));
            rows.add(bytes("a"), 2, bytes("first of a"));
            rows.add(bytes("c"), 3, bytes("third key"));
            rows.add(bytes("a"), 4, bytes("last of a"));
            rows.add(bytes("a"), 5, bytes("behind the last"));
            rows.finish();
            assertThat(found(rows, "c", "a", "b", "a"))
                    .containsExactly("1 third key", "2 first of a", "1 second key", "2 first of a");
        }
    }

    @Test
    void nothingIsFoundAmongNothing() {
        try (KeyedRows rows = new KeyedRows(scratch)) {
            rows.finish();
            assertThat(found(rows, "a")).containsExactly("0 ");
        }
    }
}
