package dev.nachlauf.core.record;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Hashes of keys as people make them: short, and alike but for a few digits. */
class ByteHashTest {
    private static final int HUTS = 1_000;
    private static final int DAYS = 365;

    private static byte[] key(int hut, int day) {
        byte[] name = "H-%03d".formatted(hut).getBytes(StandardCharsets.UTF_8);
        return ByteBuffer.allocate(name.length + Long.BYTES)
                .put(name)
                .putLong(20_000L + day)
                .array();
    }

    @Test
    void keysThatAreAlikeShareNoHalf() {
        Set<Integer> low = new HashSet<>();
        Set<Integer> high = new HashSet<>();
        for (int hut = 0; hut < HUTS; hut++) {
            for (int day = 0; day < DAYS; day++) {
                byte[] key = key(hut, day);
                long bits = ByteHash.bits(key, 0, key.length);
                low.add((int) bits);
                high.add((int) (bits >>> Integer.SIZE));
            }
        }
        int keys = HUTS * DAYS;
        assertThat(keys - low.size()).as("of random halves about 16").isLessThan(40);
        assertThat(keys - high.size()).isLessThan(40);
    }

    @Test
    void aRangeHasTheHashOfItsBytesAlone() {
        byte[] bytes = "before H-017 Gentian behind".getBytes(StandardCharsets.UTF_8);
        byte[] range = "H-017 Gentian".getBytes(StandardCharsets.UTF_8);
        assertThat(ByteHash.bits(bytes, 7, 20)).isEqualTo(ByteHash.bits(range, 0, range.length));
        assertThat(ByteHash.bits(bytes, 7, 7)).isEqualTo(ByteHash.bits(range, 3, 3));
        assertThat(ByteHash.bits(new byte[1], 0, 1)).isNotEqualTo(ByteHash.bits(new byte[2], 0, 2));
        assertThat(ByteHash.bits(new byte[8], 0, 8)).isNotEqualTo(ByteHash.bits(new byte[16], 0, 16));
    }
}
