package dev.nachlauf.core.suggest;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.suggest.Suggester.Sampled;
import dev.nachlauf.core.suggest.Suggester.Suggestion;
import dev.nachlauf.core.value.Kind;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class SuggesterTest {
    private static Sampled field(String name, Kind kind, String... values) {
        return new Sampled(name, kind, Set.of(values));
    }

    @Test
    void namesAreAlikeAcrossSpellingsAbbreviationsAndLanguages() {
        assertThat(Suggester.names("Hut no.", "hut_number")).isEqualTo(1);
        assertThat(Suggester.names("HütteNr", "hut_no")).isEqualTo(1);
        assertThat(Suggester.names("Höhe", "height_m")).isGreaterThan(0.6);
        assertThat(Suggester.names("Anreise", "arrival")).isEqualTo(1);
        assertThat(Suggester.names("licence", "license_no")).isGreaterThan(0.6);
        assertThat(Suggester.names("guest", "price")).isZero();
    }

    @Test
    void valuesDecideWhereNamesDont() {
        List<Suggestion> found = Suggester.suggest(
                List.of(
                        field("a1", Kind.TEXT, "H-001", "H-002", "H-003", "H-004", "H-005", "H-006"),
                        field("a2", Kind.TEXT, "Ada", "Bert", "Cleo", "Dora", "Emil", "Finn")),
                List.of(
                        field("code", Kind.TEXT, "H-001", "H-002", "H-003", "H-004", "H-005", "H-009"),
                        field("guest", Kind.TEXT, "Ada", "Bert", "Cleo", "Dora", "Emil", "Finn")));
        assertThat(found)
                .extracting(pair -> pair.source() + " " + pair.target())
                .containsExactly("a2 guest", "a1 code");
        assertThat(found.get(1).evidence()).contains("83 % of its values are there");
    }

    @Test
    void everyFieldStandsInOnePairAtMost() {
        List<Suggestion> found = Suggester.suggest(
                List.of(field("price", Kind.DECIMAL), field("prices", Kind.DECIMAL)),
                List.of(field("price", Kind.DECIMAL)));
        assertThat(found)
                .singleElement()
                .satisfies(pair -> assertThat(pair.source()).isEqualTo("price"));
    }
}
