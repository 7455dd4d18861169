package dev.nachlauf.core.spool;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

class KeySetTest {
    private static byte[] key(long number) {
        return ("S-" + number).getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void keysThatStandOnceAreNoSuspects() {
        KeySet keys = new KeySet(1 << 20);
        for (int i = 0; i < 50_000; i++) {
            keys.add(key(i));
        }
        assertThat(keys.isFull()).isFalse();
        assertThat(keys.hasSuspects()).isFalse();
        assertThat(keys.isSuspect(key(7))).isFalse();
    }

    /** The plain twin: a map that counts. */
    @Test
    void noKeyThatStandsTwiceIsOverlooked() {
        Random random = new Random(3);
        Map<Integer, Integer> counts = new HashMap<>();
        KeySet keys = new KeySet(1 << 20);
        for (int i = 0; i < 20_000; i++) {
            int number = random.nextInt(40_000);
            counts.merge(number, 1, Integer::sum);
            keys.add(key(number));
        }
        assertThat(counts.values()).anyMatch(count -> count == 1).anyMatch(count -> count > 2);
        counts.forEach((number, count) ->
                assertThat(keys.isSuspect(key(number))).as("key %s", number).isEqualTo(count > 1));
    }

    /** So much is an eighth of a heap of 512 MB, but for the survivor space that the JVM leaves out. */
    @Test
    void fourMillionKeysFitIntoTheMemoryThatASmallHeapLends() {
        KeySet keys = new KeySet(56_000_000);
        for (int i = 0; i < 4_000_000; i++) {
            keys.add(key(i));
        }
        assertThat(keys.isFull()).isFalse();
        assertThat(keys.hasSuspects()).isFalse();
    }

    @Test
    void aSetThatIsFullSaysSoAndSuspectsEveryKey() {
        KeySet keys = new KeySet(8 * 1_024);
        for (int i = 0; i < 800; i++) {
            keys.add(key(i));
        }
        assertThat(keys.isFull()).isTrue();
        assertThat(keys.isSuspect(key(4_711))).isTrue();
    }

    @Test
    void tooManySuspectsAreAsGoodAsAFullSet() {
        KeySet keys = new KeySet(8 << 20);
        for (int i = 0; i < 100_001; i++) {
            keys.add(key(i));
            keys.add(key(i));
        }
        assertThat(keys.isFull()).isTrue();
    }
}
