package dev.nachlauf.connectors.format.delimited;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.core.system.FormatOptions;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Rows that are taken apart by bytes are those that the library takes apart by characters. */
class SlicedRecordsTest {
    private static final Charset UTF_8 = StandardCharsets.UTF_8;
    private static final String[] PIECES = {
        "a",
        "b;",
        ";",
        ";;",
        "\"",
        "\"\"",
        "\"x\"",
        "\"x;\ny\"",
        "\n",
        "\r\n",
        "\r",
        " ",
        "\t",
        "#",
        "é",
        "Hütte",
        "\uFFFD",
        "\u2003",
        "12",
        "\u0085"
    };

    private static Layout layout(String... options) {
        Map<String, String> stated = new java.util.TreeMap<>(Map.of("delimiter", ";", "header-row", "1"));
        for (int i = 0; i < options.length; i += 2) {
            stated.put(options[i], options[i + 1]);
        }
        return Layout.of(FormatOptions.of(stated), "a;b\n1;2\n");
    }

    /** All rows, each as one line of text, and how it ended. */
    private static List<String> rows(Records records) {
        List<String> rows = new ArrayList<>();
        try (records) {
            for (Records.Fields row = records.next(); row != null; row = records.next()) {
                rows.add(row.line() + " " + row.cells() + " " + row.marks());
            }
        } catch (Records.Malformed e) {
            rows.add("malformed");
        }
        return rows;
    }

    /** A row whose quote never ends is none: whoever reads it says so. */
    private static List<String> sliced(InputStream text, Charset charset, Layout layout, BitSet needed) {
        Records records = new SlicedRecords(text, charset, layout);
        if (needed != null) {
            records.needOnly(needed);
        }
        List<String> rows = rows(records);
        if (records.endsInQuotes()) {
            rows.set(rows.size() - 1, "open quote");
        }
        return rows;
    }

    private static List<String> byCharacters(byte[] text, Charset charset, Layout layout, BitSet needed) {
        Tail tail = new Tail(new InputStreamReader(new ByteArrayInputStream(text), DecodedText.decoder(charset)));
        Records records = Records.ofCharacters(tail, layout);
        if (needed != null) {
            records.needOnly(needed);
        }
        List<String> rows = rows(records);
        if (!rows.contains("malformed") && isOpen(text, charset, layout)) {
            rows.set(rows.size() - 1, "open quote");
        }
        return rows;
    }

    private static boolean isOpen(byte[] text, Charset charset, Layout layout) {
        try {
            Reader reader = new InputStreamReader(new ByteArrayInputStream(text), charset);
            return OpenQuote.atEndOf(Records.passOver(reader, layout), layout);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Gives a few bytes at a time, so that every row is cut somewhere. */
    private static final class Trickle extends ByteArrayInputStream {
        Trickle(byte[] text) {
            super(text);
        }

        @Override
        public synchronized int read(byte[] into, int from, int length) {
            return super.read(into, from, Math.min(length, 3));
        }
    }

    private static byte[] random(Random random, Charset charset) {
        StringBuilder text = new StringBuilder("a;b;c\n");
        for (int i = random.nextInt(40); i >= 0; i--) {
            text.append(PIECES[random.nextInt(PIECES.length)]);
        }
        byte[] bytes = text.toString().getBytes(charset);
        if (random.nextInt(4) == 0) {
            // something that is no character, or only a part of one
            bytes[6 + random.nextInt(bytes.length - 6)] = (byte) (0x80 + random.nextInt(0x80));
        }
        return bytes;
    }

    @ParameterizedTest
    @ValueSource(strings = {"UTF-8", "windows-1252", "ISO-8859-1", "US-ASCII"})
    void areThoseOfTheLibrary(String name) {
        Charset charset = Charset.forName(name);
        long broken = 0;
        long malformed = 0;
        long rows = 0;
        for (int seed = 0; seed < 20_000; seed++) {
            Random random = new Random(seed);
            Layout layout = random.nextBoolean() ? layout() : layout("comment", "#", "skip-lines", "1");
            byte[] text = random(random, charset);
            BitSet needed = random.nextBoolean() ? null : BitSet.valueOf(new long[] {random.nextInt(8)});
            List<String> expected = byCharacters(text, charset, layout, needed);
            InputStream stream = random.nextBoolean() ? new Trickle(text) : new ByteArrayInputStream(text);
            assertThat(sliced(stream, charset, layout, needed))
                    .as("seed " + seed + ": "
                            + new String(text, charset).replace("\n", "\\n").replace("\r", "\\r"))
                    .isEqualTo(expected);
            rows += expected.size();
            broken +=
                    expected.stream().filter(row -> row.contains("broken=true")).count();
            malformed += expected.contains("malformed") ? 1 : 0;
        }
        assertThat(rows).as("the cases are worth it").isGreaterThan(50_000);
        assertThat(malformed).isGreaterThan(1_000);
        assertThat(broken).isGreaterThan(name.equals("ISO-8859-1") ? -1 : 50);
    }

    @Test
    void knowAQuoteThatNeverEnds() {
        for (String text : List.of("a;b\n1;\"2\n3;4\n", "a;b\n1;\"2\"\"", "a;b\n1;\"2\"\"\n")) {
            SlicedRecords records = new SlicedRecords(stream(text), UTF_8, layout());
            rows(records);
            assertThat(records.endsInQuotes()).as(text).isTrue();
        }
        for (String text : List.of("a;b\n1;\"2\"\n", "a;b\n1;2\"\n", "a;b\n\"1\";\"\"")) {
            SlicedRecords records = new SlicedRecords(stream(text), UTF_8, layout());
            rows(records);
            assertThat(records.endsInQuotes()).as(text).isFalse();
        }
    }

    @Test
    void boundWhatAFieldCanCost() {
        String longest = "x".repeat(Records.LONGEST_FIELD);
        assertThat(rows(new SlicedRecords(stream("a;b\n" + longest + ";1\n"), UTF_8, layout())))
                .hasSize(2)
                .doesNotContain("malformed");
        assertThat(rows(new SlicedRecords(stream("a;b\n" + longest + "x;1\n"), UTF_8, layout())))
                .endsWith("malformed");
        InputStream never = stream("a;b\n\"" + longest.repeat(10));
        int all = longest.length() * 10;
        assertThat(rows(new SlicedRecords(never, UTF_8, layout()))).endsWith("malformed");
        assertThat(all - available(never))
                .as("a quote that never ends is not read to the end")
                .isLessThan(3 * Records.LONGEST_FIELD);
    }

    private static int available(InputStream stream) {
        try {
            return stream.available();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static InputStream stream(String text) {
        return new ByteArrayInputStream(text.getBytes(UTF_8));
    }

    @Test
    void areNotTriedWhereBytesDontTellThemApart() {
        assertThat(SlicedRecords.canRead(UTF_8, layout())).isTrue();
        assertThat(SlicedRecords.canRead(StandardCharsets.UTF_16LE, layout())).isFalse();
        assertThat(SlicedRecords.canRead(Charset.forName("Shift_JIS"), layout()))
                .as("its second bytes may be those of a delimiter")
                .isFalse();
        assertThat(SlicedRecords.canRead(UTF_8, layout("delimiter", "||"))).isFalse();
        assertThat(SlicedRecords.canRead(UTF_8, layout("delimiter", "§"))).isFalse();
        assertThat(SlicedRecords.canRead(UTF_8, layout("escape", "\\"))).isFalse();
    }
}
