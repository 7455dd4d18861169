package dev.nachlauf.core.formula;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CrosswalkUseTest {
    private static String uses(String formula) {
        return CrosswalkUse.in(formula).stream()
                .map(use ->
                        use.crosswalk() + use.field().map(field -> "=" + field).orElse(""))
                .collect(Collectors.joining(" "));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "crosswalk('region', region)§region=region",
                "CrossWalk ( 'region' , \"Region no.\", country)§region=Region no.",
                "cast(crosswalk('category', root.hut.category) as integer)§category=root.hut.category",
                "crosswalk('region', upper(region))§region",
                "crosswalk('a', x) || crosswalk('b', y || z)§a=x b",
                "crosswalk('a', crosswalk('b', x))§a b=x",
                "crosswalk('a', x +§a",
                "crosswalk('a'§a",
                "upper(crosswalk)§``",
                "crosswalk(name, x)§``",
                "'crosswalk(''a'', x)'§``",
            })
    void isReadFromTheWords(String formula, String uses) {
        assertThat(uses(formula)).isEqualTo(uses);
    }

    @Test
    void aTextThatIsNoFormulaHasNone() {
        assertThat(uses("The crosswalk for regions; see §§ 1 & 2 {}".repeat(30)))
                .isEmpty();
        assertThat(uses("crosswalk('a', x)" + " ".repeat(Formula.LONGEST))).isEmpty();
    }
}
