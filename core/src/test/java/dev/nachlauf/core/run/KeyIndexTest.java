package dev.nachlauf.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.SortedSet;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

class KeyIndexTest {
    private final List<KeyIndex.Segment> segments = new ArrayList<>();
    private final KeyIndex index = new KeyIndex(segments::add);

    /** As the service asks: in each segment the last block that begins no later. */
    private SortedSet<Integer> find(List<Object> key) {
        long hash = KeyIndex.hash(key);
        SortedSet<Integer> batches = new TreeSet<>();
        for (KeyIndex.Segment segment : segments) {
            segment.blocks().stream()
                    .filter(block -> block.firstHash() <= hash)
                    .reduce((first, second) -> second)
                    .ifPresent(block -> batches.addAll(block.batches(hash)));
        }
        return batches;
    }

    @Test
    void findsTheBatchesOfEveryKey() {
        Random random = new Random(20_261_129);
        Map<List<Object>, SortedSet<Integer>> plain = new HashMap<>();
        for (int i = 0; i < 50_000; i++) {
            List<Object> key = List.of("H-" + random.nextInt(20_000), (long) random.nextInt(3));
            int batch = i / 1_000;
            index.add(key, batch);
            plain.computeIfAbsent(key, any -> new TreeSet<>()).add(batch);
        }
        index.finish();
        assertThat(segments).hasSize(1);
        plain.forEach((key, batches) -> assertThat(find(key)).as("%s", key).containsAll(batches));
        long more = plain.entrySet().stream()
                .filter(entry -> find(entry.getKey()).size() > entry.getValue().size())
                .count();
        assertThat(more).as("keys whose bits are those of another one").isLessThan(20);
        assertThat(find(List.of("H-20001", 1L))).isEmpty();
    }

    @Test
    void isSmall() {
        for (int i = 0; i < 1_000_000; i++) {
            index.add(List.of("S-%08d".formatted(i)), i / 10_000);
        }
        index.finish();
        long bytes = segments.stream()
                .flatMap(segment -> segment.blocks().stream())
                .mapToLong(block -> block.bytes().length)
                .sum();
        assertThat(bytes).as("bytes of a million keys").isLessThan(3_200_000);
    }

    @Test
    void aLargeRunHasSeveralSegments() {
        for (int i = 0; i < KeyIndex.SEGMENT + 10; i++) {
            index.add(List.of((long) i), i / 10_000);
        }
        index.finish();
        assertThat(segments).extracting(KeyIndex.Segment::keys).containsExactly(KeyIndex.SEGMENT, 10);
        assertThat(find(List.of(4L))).contains(0);
        assertThat(find(List.of(KeyIndex.SEGMENT + 5L))).contains(104);
    }

    @Test
    void whatATargetCouldHoldForEqualHasOneHash() {
        assertThat(KeyIndex.hash(List.of("Hütte-1"))).isEqualTo(KeyIndex.hash(List.of("HUTTE-1  ")));
        assertThat(KeyIndex.hash(List.of(new BigDecimal("1.50"))))
                .isEqualTo(KeyIndex.hash(List.of(new BigDecimal("1.5"))));
        assertThat(KeyIndex.hash(List.of("a", "b"))).isNotEqualTo(KeyIndex.hash(List.of("ab", "")));
    }
}
