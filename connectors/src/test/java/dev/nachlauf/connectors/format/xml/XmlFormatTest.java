package dev.nachlauf.connectors.format.xml;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.connectors.format.ReadBack;
import dev.nachlauf.core.problem.ProblemCode;
import java.nio.charset.Charset;
import java.util.Map;
import org.junit.jupiter.api.Test;

class XmlFormatTest {
    private static final XmlFormat FORMAT = new XmlFormat();
    private static final String SURVEY = """
            <?xml version="1.0"?>
            <s:survey xmlns:s="urn:trails" year="2026">
              <note>spring <![CDATA[& autumn]]></note>
              <region code="N"><title>North</title>
                <trail no="1"><name>Ridge</name><end><lat>47.1</lat></end>
                  <section no="1"><km>2</km></section><section no="2"><km>3</km></section></trail>
                <trail no="2"><name/></trail>
              </region>
              <region code="S"><title>South</title><trail no="3"><name>Lake</name></trail></region>
            </s:survey>
            """;

    private static ReadBack read(String text, Map<String, String> options) {
        return ReadBack.of(FORMAT, text, options);
    }

    @Test
    void carriesTheFieldsOfParentsDown() {
        ReadBack read = read(SURVEY, Map.of("record", "survey.region.trail"));
        assertThat(read.names())
                .containsExactly("survey.year", "survey.note", "region.code", "region.title", "no", "name", "end.lat");
        assertThat(read.cells(0)).containsExactly("2026", "spring & autumn", "N", "North", "1", "Ridge", "47.1");
        assertThat(read.cells(1)).containsExactly("2026", "spring & autumn", "N", "North", "2", null, null);
        assertThat(read.cells(2)).containsExactly("2026", "spring & autumn", "S", "South", "3", "Lake", null);
        assertThat(read.rows().get(2).origin().path()).isEqualTo("/survey/region[2]/trail[1]");
        assertThat(read.place(2, "region.code")).isEqualTo("huts.xml, line 9, /survey/region[2]/@code");
        assertThat(read.place(0, "end.lat")).endsWith("/survey/region[1]/trail[1]/end/lat");
    }

    @Test
    void repeatedChildrenAreRowsOfADeeperPathAndOtherwiseNamedAsLeftOut() {
        ReadBack trails = read(SURVEY, Map.of("record", "survey.region.trail"));
        assertThat(trails.option("left-out")).isEqualTo("section");
        ReadBack sections = read(SURVEY, Map.of("record", "region.trail.section"));
        assertThat(sections.rows()).hasSize(2);
        assertThat(sections.names()).contains("region.code", "trail.no", "trail.name", "no", "km");
        assertThat(sections.cells(1)).endsWith("2", "3");
    }

    @Test
    void findsWhatRepeats() {
        ReadBack read = read(SURVEY, Map.of());
        assertThat(read.option("record")).isEqualTo("survey.region");
        assertThat(read.rows()).hasSize(2);
        assertThat(read.options().getFirst().evidence()).contains("survey.region.trail");
    }

    @Test
    void aListOfOneIsReadLikeALongerOne() {
        ReadBack one = read("<huts><hut><code>H-1</code></hut></huts>", Map.of());
        assertThat(one.option("record")).isEqualTo("huts.hut");
        assertThat(one.names()).containsExactly("code");
        ReadBack record = read("<hut><code>H-1</code><at><town>Ashgate</town></at></hut>", Map.of());
        assertThat(record.option("record")).isEqualTo("hut");
        assertThat(record.names()).containsExactly("code", "at.town");
    }

    @Test
    void neverLoadsWhatLiesOutside() {
        String external = "<!DOCTYPE s [<!ENTITY x SYSTEM \"file:///etc/hostname\">]><s><r><a>&x;</a></r><r/></s>";
        assertThat(ReadBack.failure(FORMAT, external, Map.of("record", "s.r"))).isEqualTo(ProblemCode.FILE_MALFORMED);
        String bomb = "<!DOCTYPE s [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b \"&a;&a;&a;\">]><s><r>&b;</r></s>";
        assertThat(ReadBack.failure(FORMAT, bomb, Map.of("record", "s.r"))).isEqualTo(ProblemCode.FILE_MALFORMED);
        assertThat(ReadBack.failure(FORMAT, "<s><r>&x;</r></s>", Map.of("record", "s.r")))
                .isEqualTo(ProblemCode.FILE_MALFORMED);
    }

    @Test
    void boundsDepthAndAttributes() {
        String deep = "<a>".repeat(201) + "</a>".repeat(201);
        assertThat(ReadBack.failure(FORMAT, deep, Map.of("record", "a"))).isEqualTo(ProblemCode.FILE_MALFORMED);
        String allowed = "<a>".repeat(199) + "x" + "</a>".repeat(199);
        assertThat(read(allowed, Map.of("record", "a")).rows()).hasSize(1);
        String wide = "<s><r a=\"" + "x".repeat(1_000_001) + "\"/></s>";
        assertThat(ReadBack.failure(FORMAT, wide, Map.of("record", "s.r"))).isEqualTo(ProblemCode.FILE_MALFORMED);
    }

    @Test
    void readsTheEncodingThatTheFileDeclares() {
        byte[] bytes = "<?xml version=\"1.0\" encoding=\"windows-1252\"?><s><r><n>Föhre</n></r><r><n>x</n></r></s>"
                .getBytes(Charset.forName("windows-1252"));
        ReadBack read = ReadBack.of(FORMAT, "t.xml", bytes, Map.of("record", "s.r"));
        assertThat(read.cells(0)).containsExactly("Föhre");
        assertThat(read.option("encoding")).isEqualTo("windows-1252");
    }

    @Test
    void saysHowFarItCameWhereTheMarkupBreaks() {
        assertThat(ReadBack.failure(FORMAT, "<s><r><n>1</n></r><r><n>2</r></s>", Map.of("record", "s.r")))
                .isEqualTo(ProblemCode.FILE_MALFORMED);
        assertThat(ReadBack.failure(FORMAT, "<s><r><n>1</n></r>", Map.of("record", "s.r")))
                .isEqualTo(ProblemCode.FILE_MALFORMED);
        assertThat(ReadBack.failure(FORMAT, "<s/>", Map.of("record", "s.r"))).isEqualTo(ProblemCode.FILE_EMPTY);
    }
}
