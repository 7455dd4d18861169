package dev.nachlauf.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;

class NearestNamesTest {
    private static final List<String> FIELDS = List.of("hut_code", "height_m", "beds", "opens", "closes", "phone");

    @Test
    void findsWhatWasMeant() {
        assertThat(NearestNames.of("hut_cod", FIELDS)).containsExactly("hut_code");
        assertThat(NearestNames.of("bdes", FIELDS)).containsExactly("beds");
        assertThat(NearestNames.of("hut-code", FIELDS)).containsExactly("hut_code");
    }

    @Test
    void staysSilentWhenNothingIsNear() {
        assertThat(NearestNames.of("warden", FIELDS)).isEmpty();
        assertThat(NearestNames.suggestion("warden", FIELDS, "Fields: …")).isEqualTo("Fields: …");
    }

    @Test
    void reachesAThirdOfTheLengthButAtLeastOne() {
        assertThat(NearestNames.of("ab", List.of("ac", "bc"))).containsExactly("ac");
        assertThat(NearestNames.of("closest", FIELDS)).containsExactly("closes");
    }

    /** By comparing character with character these would be a hundred million steps each. */
    @Test
    void namesThatNobodyMistypesCostNothing() {
        String endless = "x".repeat(1_000_000);
        assertThat(NearestNames.of(endless, List.of(endless + "y", "price"))).isEmpty();
        assertThat(NearestNames.of("price", List.of(endless))).isEmpty();
    }

    @Test
    void namesAtMostThreeNearestFirstTiesByName() {
        assertThat(NearestNames.of("price", List.of("prize", "prices", "price1", "pride", "prince")))
                .containsExactly("price1", "prices", "pride");
    }

    @Test
    void countsASwapOfNeighboursAsOneEdit() {
        assertThat(NearestNames.distance("opnes", "opens")).isEqualTo(1);
        assertThat(NearestNames.distance("", "abc")).isEqualTo(3);
        assertThat(NearestNames.distance("kitten", "sitting")).isEqualTo(3);
    }
}
