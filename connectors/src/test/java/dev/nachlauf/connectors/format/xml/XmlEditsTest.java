package dev.nachlauf.connectors.format.xml;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.connectors.format.Edited;
import dev.nachlauf.core.record.SourceField;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.LocalDateTime;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** XML files with edits. */
class XmlEditsTest {
    private static final XmlFormat FORMAT = new XmlFormat();

    private static String edited(Edited edits, String file, Map<String, String> options, Charset charset)
            throws IOException {
        return new String(edits.copy(FORMAT, "huts", file.getBytes(charset), options), charset);
    }

    private static String edited(Edited edits, String file) throws IOException {
        return edited(edits, file, Map.of(), StandardCharsets.UTF_8);
    }

    private static final String FILE = """
            <?xml version="1.0"?>
            <!-- the wardens' list -->
            <list issued='2026-05-01'>
              <hut code="H-1" open = 'a>b'>
                <name>Larch &amp; Fern</name>
                <beds unit="places">8</beds>
              </hut>
              <hut code="H-2"><name><![CDATA[<Moss>]]></name><at><town>Ashgate</town></at></hut>
              <!-- closed -->
              <hut code="H-3"/>
            </list>
            """;

    // the fields in their order: list.issued, code, open, name, beds.unit, beds, at.town

    @Test
    void elementsChangeWhereTheyStandAndNewOnesFollowTheLast() throws IOException {
        assertThat(edited(new Edited(), FILE)).isEqualTo(FILE);
        assertThat(edited(
                        new Edited()
                                .record(4, "/list/hut[1]", null, null, "\"<&", "Föhre <8>", null, 12L)
                                .record(8, "/list/hut[2]", null, null, null, null, "beds", 9L, "Fernhead")
                                .record(10, "/list/hut[3]", null, null, "no", null, null, null, "Moss")
                                .added(null, "H-4", null, "New", "places", new BigDecimal("7.0")),
                        FILE))
                .isEqualTo("""
                        <?xml version="1.0"?>
                        <!-- the wardens' list -->
                        <list issued='2026-05-01'>
                          <hut code="H-1" open = "&quot;&lt;&amp;">
                            <name>Föhre &lt;8&gt;</name>
                            <beds unit="places">12</beds>
                          </hut>
                          <hut code="H-2"><name><![CDATA[<Moss>]]></name><at><town>Fernhead</town></at><beds unit="beds">9</beds></hut>
                          <!-- closed -->
                          <hut code="H-3" open="no"><at><town>Moss</town></at></hut>
                          <hut code="H-4"><name>New</name><beds unit="places">7.0</beds></hut>
                        </list>
                        """);
    }

    @Test
    void whatIsTakenOutLeavesTheCommentsThatStandByIt() throws IOException {
        assertThat(edited(new Edited().gone("", 8, "/list/hut[2]").gone("", 10, "/list/hut[3]"), FILE))
                .endsWith("  </hut>\n  <!-- closed -->\n</list>\n");
        String all = "<l>\n <h c='1'/>\n <h c='2'/>\n</l>";
        assertThat(edited(
                        new Edited()
                                .gone("", 2, "/l/h[1]")
                                .gone("", 3, "/l/h[2]")
                                .added("9"),
                        all))
                .isEqualTo("<l>\n <h c=\"9\"></h>\n</l>");
    }

    @Test
    void newElementsAreLaidOutAndNamedLikeTheLast() throws IOException {
        String file = "<w:l xmlns:w=\"urn:huts\">\r\n\t<w:h>\r\n\t\t<w:c>1</w:c>\r\n\t\t<w:d/>\r\n\t</w:h>\r\n</w:l>";
        assertThat(edited(
                        new Edited()
                                .record(2, "/l/h[1]", null, LocalDateTime.parse("2026-05-01T12:00"))
                                .added("2", "x")
                                .added(3L),
                        file.replace("<w:d/>", "<w:d>y</w:d>")))
                .isEqualTo(file.replace("<w:d/>", "<w:d>2026-05-01T12:00:00</w:d>")
                        .replace(
                                "</w:h>",
                                "</w:h>\r\n\t<w:h>\r\n\t\t<w:c>2</w:c>\r\n\t\t<w:d>x</w:d>\r\n\t</w:h>"
                                        + "\r\n\t<w:h>\r\n\t\t<w:c>3</w:c>\r\n\t</w:h>"));
    }

    @Test
    void whatStandsInQuotesEndsNoTag() throws IOException {
        String file = "<l>\n <h c='1'>\n  <d>2</d>\n </h>\n <h c='/>'>\n  <d>2</d>\n </h>\n</l>";
        assertThat(edited(new Edited().added("3", "4"), file))
                .isEqualTo(file.replace("</l>", " <h c=\"3\">\n  <d>4</d>\n </h>\n</l>"));
    }

    @Test
    void everyEncodingStays() throws IOException {
        for (String encoding : new String[] {"UTF-8", "UTF-16LE", "ISO-8859-1", "windows-1252"}) {
            Charset charset = Charset.forName(encoding);
            String mark = encoding.startsWith("UTF") ? "\uFEFF" : "";
            String declared = encoding.startsWith("UTF-16") ? "UTF-16" : encoding;
            String file = mark + "<?xml version='1.0' encoding='" + declared + "'?><l><h c='ö'/><h c='2'/></l>";
            String mountain = encoding.startsWith("UTF") ? "🏔" : "&#127956;";
            assertThat(edited(new Edited().record(1, "/l/h[1]", "ü🏔").added("ä"), file, Map.of(), charset))
                    .isEqualTo(file.replace("'ö'", "\"ü" + mountain + "\"").replace("</l>", "<h c=\"ä\"></h></l>"));
        }
    }

    @Test
    void aNewElementNeedsOneParentAndATextItsOwnElement() throws IOException {
        Map<String, String> nested = Map.of("record", "l.r.h");
        String several = "<l><r><h c='1'/></r><r><h c='2'/></r></l>";
        assertThat(edited(new Edited(), several, nested, StandardCharsets.UTF_8))
                .isEqualTo(several);
        assertThatThrownBy(() -> edited(new Edited().added("3"), several, nested, StandardCharsets.UTF_8))
                .hasMessageContaining("The records of huts lie in no element or in several");
        assertThatThrownBy(() -> edited(
                        new Edited().record(2, "/l/h[2]", "x"), "<l><h>a</h>\n<h b='1'>c<d>e</d></h><h b='2'/></l>"))
                .hasMessageContaining("h in huts holds elements, so its text can't be changed.");
        assertThat(FORMAT.whyFixed(new SourceField("l.issued", "../@issued")))
                .hasValue("it belongs to what stands around the records");
        assertThat(FORMAT.whyFixed(new SourceField("code", "/@code"))).isEmpty();
    }
}
