package dev.nachlauf.core.template;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class TextTemplateTest {
    private static String filled(TextTemplate template, Map<String, String> values) {
        return template.filled(name -> values.getOrDefault(name, "?"), Escape.NONE);
    }

    @Test
    void fillsItsPlaces() {
        TextTemplate template = TextTemplate.of("HUT ${code} has ${ beds } beds, costs $5 and $${not this}.");
        assertThat(template.names()).containsExactlyInAnyOrder("code", "beds");
        assertThat(filled(template, Map.of("code", "H-1", "beds", "8")))
                .isEqualTo("HUT H-1 has 8 beds, costs $5 and ${not this}.");
    }

    @Test
    void aValueBringsNoPlaceOfItsOwn() {
        TextTemplate template = TextTemplate.of("${name}/${code}");
        assertThat(filled(template, Map.of("name", "${code}", "code", "H-1"))).isEqualTo("${code}/H-1");
    }

    @Test
    void growsFromARecordedText() {
        String recorded = "begin H-018\n  beds 8\n  price 8.50\n  near H-0181 ${literal}\nend H-018\n";
        TextTemplate grown = TextTemplate.grown(recorded, Map.of("code", "H-018", "beds", "8", "price", "8.50"));
        assertThat(filled(grown, Map.of("code", "H-042", "beds", "12", "price", "9")))
                .isEqualTo("begin H-042\n  beds 12\n  price 9\n  near H-0181 ${literal}\nend H-042\n");
    }

    @Test
    void ofTwoEqualValuesOneFindsNoPlace() {
        assertThat(TextTemplate.grown("a 8 b 8", Map.of("beds", "8")).names()).containsExactly("beds");
        assertThat(TextTemplate.grown("nothing", Map.of("beds", "8")).names()).isEmpty();
        assertThat(TextTemplate.grown("nothing", Map.of()).names()).isEmpty();
    }

    @Test
    void onlyItsOwnWordsChangeTheirLineEnds() {
        TextTemplate template = TextTemplate.of("a\n${value}\r\n").withLineEnds("\r\n");
        assertThat(filled(template, Map.of("value", "x\ny"))).isEqualTo("a\r\nx\ny\r\n");
    }

    /** Text that means something to whoever reads what is made of it. */
    private static final String HOSTILE = "a\"b'c\\d<e>&amp;\r\nf\tg\u0007${h}%0A\u2028i";

    @ParameterizedTest
    @EnumSource(value = Escape.class, names = "NONE", mode = EnumSource.Mode.EXCLUDE)
    void noEscapedValueHoldsALineEndOrAControlCharacter(Escape escape) {
        String spelled = escape.spell(HOSTILE);
        assertThat(spelled.codePoints().filter(c -> Character.isISOControl(c)).count())
                .isZero();
    }

    @Test
    void eachSpellingIsThatOfItsLanguage() {
        assertThat(Escape.NONE.spell(HOSTILE)).isEqualTo(HOSTILE);
        assertThat(Escape.LINE.spell(HOSTILE)).isEqualTo("a\"b'c\\d<e>&amp;  f g ${h}%0A i");
        assertThat(Escape.QUOTES.spell(HOSTILE)).isEqualTo("a\"\"b'c\\d<e>&amp;  f g ${h}%0A i");
        assertThat(Escape.BACKSLASH.spell(HOSTILE))
                .isEqualTo("a\\\"b\\'c\\\\d<e>&amp;\\r\\nf\\tg\\u0007${h}%0A\\u2028i");
        assertThat(Escape.JSON.spell(HOSTILE)).isEqualTo("a\\\"b'c\\\\d<e>&amp;\\r\\nf\\tg\\u0007${h}%0A\\u2028i");
        assertThat(Escape.XML.spell(HOSTILE))
                .isEqualTo("a&quot;b&apos;c\\d&lt;e&gt;&amp;amp;&#13;&#10;f&#9;g\uFFFD${h}%0A\u2028i");
        assertThat(Escape.URL.spell("a b&c=ü/\n")).isEqualTo("a%20b%26c%3D%C3%BC%2F%0A");
    }
}
