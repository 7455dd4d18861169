package dev.nachlauf.core.step;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.job.Step.Among;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

class LookupCacheTest {
    private static final Finding WARDEN = finding("warden", "warden_id");
    private static final Finding HUT = finding("hut", "hut_id");

    private final List<List<Object>> asked = new ArrayList<>();
    private final LookupCache cache = new LookupCache((finding, keys) -> {
        keys.forEach(key -> asked.add(Arrays.asList(key)));
        return keys.stream()
                .map(key -> key[0].equals("W-0") ? Found.NOTHING : new Found(1, new Object[] {"id of " + key[0]}))
                .toList();
    });

    private static Finding finding(String records, String id) {
        Placed<String> connection = new Placed<>("register", Place.NOWHERE);
        return new Finding(
                new Among.Records(connection, new Placed<>(records, Place.NOWHERE)),
                records,
                List.of(),
                List.of(new Field(id, Kind.INTEGER)));
    }

    private static List<List<Object>> keys(Object... parts) {
        List<List<Object>> keys = new ArrayList<>();
        for (Object part : parts) {
            keys.add(part == null ? null : List.of(part));
        }
        return keys;
    }

    @Test
    void aBatchAsksOnceForItsDistinctKeys() {
        List<Found> found = cache.find(WARDEN, keys("W-1", "W-2", null, "W-1", "W-0"));
        assertThat(cache.questions()).isEqualTo(1);
        assertThat(asked).containsExactly(List.of("W-1"), List.of("W-2"), List.of("W-0"));
        assertThat(found).extracting(Found::matches).containsExactly(1, 1, 0, 1, 0);
        assertThat(found.get(3).values()).containsExactly("id of W-1");
    }

    @Test
    void whatIsKnownIsNotAskedAgainNotEvenWhatWasNotFound() {
        cache.find(WARDEN, keys("W-1", "W-0"));
        cache.find(WARDEN, keys("W-0", "W-1"));
        assertThat(cache.questions()).isEqualTo(1);
        cache.find(WARDEN, keys("W-1", "W-3"));
        assertThat(cache.questions()).isEqualTo(2);
        assertThat(asked).endsWith(List.of("W-3"));
    }

    @Test
    void differentQuestionsDoNotAnswerEachOther() {
        cache.find(WARDEN, keys("W-1"));
        assertThat(cache.find(HUT, keys("W-1")).getFirst().values()).containsExactly("id of W-1");
        assertThat(cache.questions()).isEqualTo(2);
    }

    @Test
    void whatTheRunWritesIsForgottenAndNothingElse() {
        cache.find(WARDEN, keys("W-1"));
        cache.find(HUT, keys("H-1"));
        cache.forget("register", "warden");
        cache.find(HUT, keys("H-1"));
        assertThat(cache.questions()).isEqualTo(2);
        cache.find(WARDEN, keys("W-1"));
        assertThat(cache.questions()).isEqualTo(3);
    }

    @Test
    void theLeastLatelyUsedIsForgottenFirst() {
        cache.find(WARDEN, keys("W-1"));
        cache.find(WARDEN, keys("W-2"));
        cache.find(WARDEN, keys("W-1"));
        cache.find(
                WARDEN, keys(LongStream.range(0, LookupCache.MOST - 1).boxed().toArray()));
        cache.find(WARDEN, keys("W-1"));
        assertThat(cache.questions()).as("W-1 is still known").isEqualTo(3);
        cache.find(WARDEN, keys("W-2"));
        assertThat(cache.questions()).as("W-2 had to go").isEqualTo(4);
    }

    @Test
    void aBatchWithMoreKeysThanAreRememberedHasAllItsAnswers() {
        Object[] many = LongStream.range(0, LookupCache.MOST + 10L).boxed().toArray();
        assertThat(cache.find(WARDEN, keys(many))).allMatch(found -> found.matches() == 1);
    }
}
