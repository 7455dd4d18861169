package dev.nachlauf.service.shared;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class CrosswalksTest {
    /** YAML spells one formula in many ways; all of them name the crosswalk. */
    @Test
    void areFoundHoweverYamlSpellsTheFormula() {
        String document = """
                write:
                  map:
                    a: crosswalk('plain', x)
                    b: 'crosswalk(''doubled'', y)'
                    c: "CROSSWALK( 'double' , \\"Hut no.\\")"
                    d: { value: "crosswalk('braces', z)", write: if-empty }
                    e: >-
                      case when x = 'a'
                           then crosswalk(
                                'folded', x) end
                steps:
                  - set:
                      f: upper(crosswalk('list', x))
                notes: A crosswalk for regions, crosswalk ('no formula')
                """;
        assertThat(Crosswalks.named(document))
                .containsExactly("braces", "double", "doubled", "folded", "list", "no formula", "plain");
        assertThat(Crosswalks.uses(document))
                .filteredOn(use -> use.crosswalk().equals("double"))
                .singleElement()
                .satisfies(use -> assertThat(use.field()).contains("Hut no."));
    }

    @Test
    void areNotFoundInWhatIsNoYaml() {
        assertThat(Crosswalks.named("map: { a: crosswalk('x', y")).isEmpty();
    }
}
