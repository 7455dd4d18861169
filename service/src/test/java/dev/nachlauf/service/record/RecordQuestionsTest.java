package dev.nachlauf.service.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.api.CountedRecords;
import dev.nachlauf.api.FoundRecords;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Questions to a real database. */
class RecordQuestionsTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_questions";
    private static ServiceUnderTest service;
    private static RecordQuestions questions;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        questions = service.bean(RecordQuestions.class);
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(
                REGISTER,
                "CREATE TABLE hut (id bigint PRIMARY KEY, code text, region text, beds integer, price numeric(8, 2),"
                        + " opens date, open boolean, extra jsonb)");
        CLUSTER.execute(REGISTER, """
                INSERT INTO hut VALUES (1, 'H-1', 'LAR', 8, 24.50, '2026-05-01', true, '{"a": 1}'),
                  (2, 'H-2', 'LAR', 30, 19.00, '2026-06-01', false, NULL), (3, 'H-3', NULL, NULL, NULL, NULL, NULL, NULL)""");
        service.connect(REGISTER);
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static FoundRecords find(String where, List<String> fields, String... sort) {
        return questions.find("register", "hut", where, fields, List.of(sort), 2);
    }

    @Test
    void recordsAreFoundWithAllTheirValuesAsText() {
        FoundRecords found = find("opens = date '2026-05-01' and open and price > 20", List.of());
        assertThat(found.fields()).containsExactly("id", "code", "region", "beds", "price", "opens", "open", "extra");
        assertThat(found.records())
                .containsExactly(List.of("1", "H-1", "LAR", "8", "24.50", "2026-05-01", "true", "{\"a\": 1}"));
        assertThat(found.more()).isFalse();
    }

    @Test
    void theyComeInOrderWithEmptyOnesLast() {
        FoundRecords found = find(null, List.of("code", "beds"), "beds desc", "code");
        assertThat(found.records()).containsExactly(List.of("H-2", "30"), List.of("H-1", "8"));
        assertThat(found.more()).isTrue();
        assertThat(find("beds is null", List.of("code", "region")).records())
                .containsExactly(Arrays.asList("H-3", null));
    }

    @Test
    void theyAreCountedAsAWholeAndByFields() {
        assertThat(questions.count("register", "hut", "beds > 5", List.of()).count())
                .isEqualTo(2);
        CountedRecords counted = questions.count("register", "hut", null, List.of("region"));
        assertThat(counted.groups())
                .containsExactly(
                        new CountedRecords.Group(List.of("LAR"), 2),
                        new CountedRecords.Group(Arrays.asList((String) null), 1));
        assertThat(questions
                        .count("register", "hut", "1 / (beds - 8) > 0", List.of())
                        .note())
                .isEqualTo("The formula can't be computed of 1 record; these are left out.");
    }

    @Test
    void whatIsWrongIsToldWithItsRemedy() {
        assertThatThrownBy(() -> find("bedz > 3", List.of())).hasMessageContaining("bedz");
        assertThatThrownBy(() -> find(null, List.of("codes"))).hasMessageContaining("hut has no field codes");
        assertThatThrownBy(() -> questions.find("register", "huts", null, List.of(), List.of(), 5))
                .hasMessageContaining("no record type huts");
        assertThatThrownBy(() -> questions.find("inbox", "hut", null, List.of(), List.of(), 5))
                .hasMessageContaining("The connection inbox holds no records.");
        assertThatThrownBy(() -> questions.find("register", "hut", null, List.of(), List.of(), 1001))
                .hasMessageContaining("1 to 1000");
    }
}
