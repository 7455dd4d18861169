package dev.nachlauf.core.spool;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

class KeyNumbersTest {
    private static byte[] key(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void areThoseOfAMap() {
        KeyNumbers numbers = new KeyNumbers();
        Map<String, Integer> plain = new HashMap<>();
        Random random = new Random(7);
        for (int i = 0; i < 50_000; i++) {
            String key = "k".repeat(random.nextInt(3)) + random.nextInt(12_000);
            Integer next = plain.size();
            assertThat(numbers.number(key(key))).as(key).isEqualTo(plain.computeIfAbsent(key, any -> next));
        }
        assertThat(numbers.count()).isEqualTo(plain.size()).isGreaterThan(20_000);
        plain.forEach((key, number) -> assertThat(numbers.find(key(key))).isEqualTo(number));
        assertThat(numbers.find(key("nobody"))).isEqualTo(KeyNumbers.NONE);
        assertThat(numbers.bytes()).isBetween(200_000L, 2_000_000L);
    }

    @Test
    void emptyKeysAreKeysToo() {
        KeyNumbers numbers = new KeyNumbers();
        assertThat(numbers.find(key(""))).isEqualTo(KeyNumbers.NONE);
        assertThat(numbers.number(key(""))).isZero();
        assertThat(numbers.number(key("a"))).isEqualTo(1);
        assertThat(numbers.number(key(""))).isZero();
    }
}
