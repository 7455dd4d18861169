package dev.nachlauf.acceptance.torment;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/** Some rounds of the torment with every build; {@code tools/torment} runs more of them. */
@Order(1) // takes longest
class TormentTest {
    /**
     * Rounds that are little alike: a held load of MariaDB that hangs, then undone; the service's own database stopped hard
     * beside strangers; two databases, groups, first some rows; a service that is ended while others write.
     */
    private static final long[] SEEDS = {20_261_128, 20_261_132, 20_261_133, 20_261_137};

    @Test
    void nothingIsLostAndNothingToldWrongly() {
        assertThat(Torment.run(0, SEEDS)).isEmpty();
    }
}
