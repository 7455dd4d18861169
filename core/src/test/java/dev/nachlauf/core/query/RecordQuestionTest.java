package dev.nachlauf.core.query;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.query.RecordQuestion.Counted;
import dev.nachlauf.core.query.RecordQuestion.Found;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FieldMark;
import dev.nachlauf.core.system.Marks;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.value.Kind;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RecordQuestionTest {
    private static final RecordDescription HUT = new RecordDescription(
            "hut",
            true,
            List.of(
                    FieldDescription.plain("code", Kind.TEXT),
                    FieldDescription.plain("region", Kind.TEXT),
                    FieldDescription.plain("beds", Kind.INTEGER)),
            List.of(),
            List.of());
    private static final List<@Nullable Object[]> HUTS = List.of(
            new Object[] {"H-3", "LAR", 30L},
            new Object[] {"H-1", "SRI", 8L},
            new Object[] {"H-4", "LAR", null},
            new Object[] {"H-2", null, 12L},
            new Object[] {"H-5", "LAR", 8L});

    private int read;

    /** A cursor over those fields that the question wants. */
    private RecordCursor cursor(RecordQuestion question) {
        List<String> names = HUT.fields().stream().map(FieldDescription::name).toList();
        int[] places = question.read().stream().mapToInt(names::indexOf).toArray();
        Iterator<@Nullable Object[]> huts = HUTS.iterator();
        return new RecordCursor() {
            @Override
            public List<Field> fields() {
                return IntStream.of(places)
                        .mapToObj(place -> new Field(
                                names.get(place), HUT.fields().get(place).kind()))
                        .toList();
            }

            @Override
            public @Nullable Object @Nullable [] next() {
                if (!huts.hasNext()) {
                    return null;
                }
                read++;
                @Nullable Object[] hut = huts.next();
                return IntStream.of(places).mapToObj(place -> hut[place]).toArray();
            }

            @Override
            public void close() {}
        };
    }

    private List<String> find(@Nullable String where, String fields, String sort, int limit) {
        List<Order> orders = Stream.of(sort.split(","))
                .filter(one -> !one.isBlank())
                .map(Order::of)
                .toList();
        List<String> shown = List.of(fields.split(","));
        RecordQuestion question = RecordQuestion.of(
                HUT,
                Optional.ofNullable(where),
                Stream.concat(shown.stream(), orders.stream().map(Order::field)).toList());
        Found found = question.find(cursor(question), shown, orders, limit);
        return Stream.concat(
                        found.records().stream().map(Arrays::toString),
                        Stream.of("more " + found.more() + ", broken " + found.broken()))
                .toList();
    }

    @Test
    void recordsComeAsTheyAreWhereNoOrderIsAskedFor() {
        assertThat(find(null, "code,beds", "", 2)).containsExactly("[H-3, 30]", "[H-1, 8]", "more true, broken 0");
        assertThat(read)
                .as("nothing is read beyond what is shown and what says that there is more")
                .isEqualTo(3);
        assertThat(find("region = 'LAR' and beds is null", "code", "", 9))
                .containsExactly("[H-4]", "more false, broken 0");
    }

    @ParameterizedTest
    @CsvSource(delimiter = ';', textBlock = """
            beds;             [H-1], [H-5], [H-2], [H-3], [H-4]
            beds desc,code;   [H-3], [H-2], [H-1], [H-5], [H-4]
            region, code desc; [H-5], [H-4], [H-3], [H-1], [H-2]
            code ASC;         [H-1], [H-2], [H-3], [H-4], [H-5]
            """)
    void anOrderPutsEmptyOnesLast(String sort, String codes) {
        assertThat(find(null, "code", sort, 9))
                .containsExactly((codes + "|more false, broken 0").split(", (?=\\[)|\\|"));
        assertThat(find(null, "code", sort, 2))
                .as("the first two of all")
                .containsExactly(codes.split(", ")[0], codes.split(", ")[1], "more true, broken 0");
    }

    @Test
    void whatCannotBeComputedIsCountedApart() {
        assertThat(find("100 / (beds - 8) > 0", "code", "code", 9))
                .containsExactly("[H-2]", "[H-3]", "more false, broken 2");
    }

    @Test
    void recordsAreCountedByGroups() {
        RecordQuestion question = RecordQuestion.of(HUT, Optional.of("beds is null or beds < 20"), List.of("region"));
        Counted counted = question.count(cursor(question), List.of("region"));
        assertThat(counted.count()).isEqualTo(4);
        assertThat(counted.groups())
                .extracting(group -> group.values() + " " + group.count())
                .containsExactly("[LAR] 2", "[SRI] 1", "[null] 1");
        question = RecordQuestion.of(HUT, Optional.empty(), List.of());
        assertThat(question.read()).as("something has to be read").containsExactly("code");
        assertThat(question.count(cursor(question), List.of()).count()).isEqualTo(5);
    }

    @Test
    void whatIsWrongIsTold() {
        assertThatThrownBy(() -> find(null, "code", "badge", 2))
                .isInstanceOf(CannotGoOn.class)
                .hasMessageContaining("hut has no field badge");
        assertThatThrownBy(() -> find("bedz > 3", "code", "", 2)).hasMessageContaining("bedz");
        assertThatThrownBy(() -> find("beds", "code", "", 2)).hasMessageContaining("type-mismatch");
    }

    @Test
    void nobodyLearnsASensitiveValueByAskingForIt() {
        RecordDescription marked = new Marks(Map.of("hut", Map.of("beds", new FieldMark(true, true, "", "")))).on(HUT);
        assertThatThrownBy(() -> RecordQuestion.of(marked, Optional.of("beds = 8"), List.of("code")))
                .hasMessageContaining("not-permitted");
        RecordQuestion question = RecordQuestion.of(marked, Optional.empty(), List.of("beds"));
        assertThatThrownBy(() -> question.requireOpen(List.of("beds"))).hasMessageContaining("beds");
        assertThat(question.requireOpen(List.of("code"))).isSameAs(question);
    }
}
