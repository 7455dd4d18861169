package dev.nachlauf.core.profile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.profile.KeyFigures.Repeat;
import dev.nachlauf.core.source.Rows;
import dev.nachlauf.core.value.Kind;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ProfilerTest {
    @TempDir
    Path scratch;

    private Profile profile(List<List<String>> keys, String... lines) {
        return Profiler.profile(() -> Rows.of(lines), keys, scratch);
    }

    private Profile searched(String... lines) {
        return Profiler.profile(() -> Rows.of(lines), scratch);
    }

    @Test
    void countsEveryField() {
        Profile profile = profile(
                List.of(),
                "code;beds;region",
                "H-001;12;North",
                "H-002;8;north ",
                "H-003; ;NORTH",
                "H-004;120;South",
                "H-004;;South");
        assertThat(profile.rows()).isEqualTo(5);
        FieldProfile code = profile.fields().get(0);
        assertThat(List.of(code.filled(), code.blank(), code.distinct())).containsExactly(5L, 0L, 4L);
        assertThat(code.shapes()).containsExactly(new ValueCount("A-999", 5));
        assertThat(code.commonest().getFirst()).isEqualTo(new ValueCount("H-004", 2));
        FieldProfile beds = profile.fields().get(1);
        assertThat(beds.guess().reading().kind()).isEqualTo(Kind.INTEGER);
        assertThat(List.of(beds.filled(), beds.blank(), beds.shortest(), beds.longest()))
                .containsExactly(3L, 2L, 1L, 3L);
        assertThat(beds.smallest()).isEqualTo("8");
        assertThat(beds.largest()).isEqualTo("120");
        FieldProfile region = profile.fields().get(2);
        assertThat(region.spellings())
                .containsExactly(
                        List.of(new ValueCount("NORTH", 1), new ValueCount("North", 1), new ValueCount("north ", 1)));
    }

    @Test
    void withoutATargetTheKeysAreSearchedInTheFile() {
        Profile single = searched("name;code", "Hut;H-1", "Hut;H-2", "Hut;H-3");
        assertThat(single.keys()).extracting(KeyFigures::fields).containsExactly(List.of("code"));
        assertThat(single.keys().getFirst().repeated()).isZero();
        Profile together =
                searched("region;no;name;note", "N;1;Hut;", "N;2;Hut;x", "S;1;Hut;", "S;2;Hut;", "S;3;Hut;y");
        assertThat(together.keys()).extracting(KeyFigures::fields).containsExactly(List.of("region", "no"));
        Profile none = searched("region;no", "N;1", "N;1");
        assertThat(none.keys()).isEmpty();
        assertThat(profile(List.of(List.of("name")), "name;code", "Hut;H-1", "Hut;H-2")
                        .keys())
                .as("only what was asked for")
                .extracting(KeyFigures::repeated)
                .containsExactly(2L);
    }

    @Test
    void aKeyThatHoldsInTheSampleIsCountedInTheWholeSource() {
        List<String> lines = new ArrayList<>(List.of("code;beds"));
        for (int n = 0; n < 1_500; n++) {
            lines.add("H-%d;%d".formatted(n, n % 7));
        }
        lines.add("H-3;9");
        Profile profile = searched(lines.toArray(String[]::new));
        assertThat(profile.keys()).singleElement().satisfies(key -> {
            assertThat(key.fields()).containsExactly("code");
            assertThat(key.repeated()).isEqualTo(2);
        });
    }

    @Test
    void rowsThatStandTwiceAreTold() {
        Profile profile = profile(List.of(), "code;beds", "H-1;", "H-2;8", "H-1;", ";H-1", "H-2;8", "H-2;8");
        assertThat(profile.remarks())
                .filteredOn(remark -> remark.about().equals(Profile.Remark.REPEATED))
                .extracting(Profile.Remark::sentence)
                .containsExactly("5 rows stand more than once with all their values, such as the rows 2, 5, 6.");
        assertThat(profile(List.of(), "code;beds", "H-1;8", "H-1;9").remarks())
                .noneMatch(remark -> remark.about().equals(Profile.Remark.REPEATED));
    }

    @Test
    void namesEqualConstantAndSwappedFields() {
        List<String> lines = new ArrayList<>(List.of("code;licence;copy;season"));
        for (int n = 100; n < 120; n++) {
            lines.add("H-%d;W%d;H-%d;2026".formatted(n, n, n));
        }
        lines.set(7, "W106;H-106;W106;2026");
        Profile profile = profile(List.of(), lines.toArray(String[]::new));
        assertThat(profile.remarks())
                .extracting(Profile.Remark::about, Profile.Remark::fields)
                .contains(
                        org.assertj.core.groups.Tuple.tuple("equal", List.of("code", "copy")),
                        org.assertj.core.groups.Tuple.tuple("constant", List.of("season")),
                        org.assertj.core.groups.Tuple.tuple("swapped", List.of("code", "licence")));
        assertThat(profile.remarks())
                .filteredOn(remark -> remark.about().equals("swapped"))
                .anySatisfy(remark ->
                        assertThat(remark.sentence()).contains("In 1 row").contains("line 8"));
    }

    @Test
    void saysWhereValuesBreakTheGuessedKind() {
        List<String> lines = new ArrayList<>(List.of("beds"));
        for (int n = 0; n < 60; n++) {
            lines.add(n == 40 ? "many" : String.valueOf(n));
        }
        FieldProfile beds =
                profile(List.of(), lines.toArray(String[]::new)).fields().getFirst();
        assertThat(beds.misfits()).isEqualTo(1);
        assertThat(beds.examples())
                .containsExactly(new FieldProfile.Misfit("many", "huts.csv, line 42, beds of huts.csv"));
    }

    @Test
    void tellsWhetherAKeyIsUniqueAndNamesWhatRepeats() {
        Profile profile = profile(
                List.of(List.of("code"), List.of("code", "day")), "code;day", "H-1;1", "H-1;2", "H-2;1", "H-1;2", ";3");
        KeyFigures code = profile.keys().get(0);
        assertThat(List.of(code.filled(), code.distinct(), code.repeated())).containsExactly(4L, 2L, 3L);
        assertThat(code.examples()).containsExactly(new Repeat("H-1", 3, List.of(1L, 2L, 4L)));
        KeyFigures both = profile.keys().get(1);
        assertThat(List.of(both.filled(), both.distinct(), both.repeated())).containsExactly(4L, 3L, 2L);
        assertThat(both.examples()).containsExactly(new Repeat("H-1 · 2", 2, List.of(2L, 4L)));
        assertThatThrownBy(() -> profile(List.of(List.of("cod")), "code", "1")).isInstanceOf(CannotGoOn.class);
    }

    @Test
    void countsManyDifferentValuesWithinOneOrTwoPercent() {
        DistinctCount count = new DistinctCount();
        for (int n = 0; n < DistinctCount.EXACT; n++) {
            count.add("v" + n);
        }
        assertThat(count.exact()).isTrue();
        assertThat(count.count()).isEqualTo(DistinctCount.EXACT);
        for (int n = 0; n < 300_000; n++) {
            count.add("v" + n);
        }
        assertThat(count.exact()).isFalse();
        assertThat((double) count.count()).isBetween(300_000 * 0.97, 300_000 * 1.03);
    }

    @Test
    void commonValuesStayCommonAmongManyRareOnes() {
        ValueCounts counts = new ValueCounts(100);
        for (int n = 0; n < 20_000; n++) {
            counts.add(n % 4 == 0 ? "common" : "rare" + n);
        }
        assertThat(counts.exact()).isFalse();
        assertThat(counts.commonest(1).getFirst().value()).isEqualTo("common");
        assertThat(counts.commonest(1).getFirst().count()).isBetween(1L, 5_000L);
        assertThat(counts.commonest(1_000)).hasSizeLessThanOrEqualTo(100);
    }

    @ParameterizedTest
    @CsvSource({
        "BR-0042,AA-9999",
        "Föhrenstein Hut,Aaaaa+ Aaa",
        "BR-00042,AA-99999",
        "123456789,999999999",
        "1234567890123456,999999999999+",
        "a1,a9",
        "ABCDEFG,AAAA+",
    })
    void shapes(String value, String shape) {
        assertThat(ValueShape.of(value)).isEqualTo(shape);
    }

    @ParameterizedTest
    @CsvSource({
        "Sankt-Anna,anna  SANKT",
        "Föhre,fohre",
        "Straße 5,strasse 5",
    })
    void spellingsOfTheSame(String one, String other) {
        assertThat(Spellings.essence(one)).isEqualTo(Spellings.essence(other));
        assertThat(Spellings.essence("12-3")).isEmpty();
    }
}
