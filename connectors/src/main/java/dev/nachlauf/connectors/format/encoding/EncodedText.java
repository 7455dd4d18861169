package dev.nachlauf.connectors.format.encoding;

import dev.nachlauf.core.system.Characters;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.Setting;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;

/** How texts are written: their encoding and the ends of their lines. */
public record EncodedText(Charset charset, String lineEnd) {
    private static final String LINE_ENDS = "line-ends";

    /** The options that say so. */
    public static final List<Setting> OPTIONS = List.of(
            Setting.optional(DecodedText.ENCODING, "utf-8 unless stated; windows-1252, iso-8859-1 and others"),
            Setting.optional(LINE_ENDS, "lf unless stated, or crlf"));

    /** What options say. */
    public static EncodedText of(FormatOptions options) {
        Charset charset =
                options.text(DecodedText.ENCODING).map(EncodedText::charset).orElse(StandardCharsets.UTF_8);
        boolean carriage = options.word(LINE_ENDS, "lf", List.of("lf", "crlf")).equals("crlf");
        return new EncodedText(charset, carriage ? "\r\n" : "\n");
    }

    private static Charset charset(String name) {
        try {
            Charset charset = Charset.forName(name);
            if (charset.canEncode()) {
                return charset;
            }
        } catch (IllegalArgumentException e) {
            // said below
        }
        throw FormatOptions.malformed(DecodedText.ENCODING, "Nothing can be written in the encoding " + name + ".");
    }

    /** A field that is written so: it holds only characters that the encoding has. */
    public FieldDescription demanded(FieldDescription field) {
        return field.holding(Characters.of(charset));
    }

    /** Writes texts; closing it flushes, and leaves the stream open. */
    public Writer writer(OutputStream out) {
        return new BufferedWriter(new OutputStreamWriter(out, charset)) {
            @Override
            public void close() throws IOException {
                flush();
            }
        };
    }
}
