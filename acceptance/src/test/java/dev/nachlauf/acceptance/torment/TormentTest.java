package dev.nachlauf.acceptance.torment;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** Some rounds of the torment with every build; {@code tools/torment} runs more of them. */
class TormentTest {
    private static final int ROUNDS = 10;

    @Test
    void nothingIsLostAndNothingToldWrongly() {
        assertThat(Torment.run(ROUNDS, 20_261_128)).isEmpty();
    }
}
