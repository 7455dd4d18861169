package dev.nachlauf.connectors.format.encoding;

import dev.nachlauf.connectors.format.encoding.EncodingDetection.Encoding;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceFormat;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.nio.charset.Charset;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.IllegalCharsetNameException;
import java.nio.charset.UnsupportedCharsetException;
import java.util.Locale;

/**
 * A text as characters.
 *
 * @param bytes streams the whole text as it is, without a byte order mark
 * @param charset how its bytes are characters
 * @param reader streams it as characters, in the place of {@code bytes}; bytes that are none of the encoding's become
 *     {@link #REPLACEMENT}
 * @param start the first characters once more, to look at
 * @param encoding the encoding in force
 */
public record DecodedText(InputStream bytes, Charset charset, Reader reader, String start, Detected encoding) {
    /** The option's name. */
    public static final String ENCODING = "encoding";

    /**
     * Stands where bytes were no character, until the row is rejected: a code point that is no character and that no text
     * interchanges (Unicode, section 23.7). U+FFFD won't do, for a text may hold it rightfully.
     */
    public static final char REPLACEMENT = '\uFFFF';

    private static final char FOR_PEOPLE = '\uFFFD';

    /** A text with what were no characters, as people know it. */
    public static String shown(String text) {
        return text.replace(REPLACEMENT, FOR_PEOPLE);
    }

    /**
     * Opens a text.
     *
     * @throws CannotGoOn where it is empty, or the stated encoding is unknown
     */
    public static DecodedText open(SourceBytes bytes, FormatOptions options) throws IOException {
        InputStream raw = bytes.open();
        try {
            BufferedInputStream in = new BufferedInputStream(raw, SourceFormat.START * 2);
            in.mark(SourceFormat.START + 1);
            byte[] sample = in.readNBytes(SourceFormat.START);
            in.reset();
            if (sample.length == 0) {
                throw empty(bytes.file());
            }
            Encoding encoding = encoding(options, sample);
            in.skipNBytes(encoding.mark());
            Reader reader = new InputStreamReader(in, decoder(encoding.charset()));
            String start = new String(sample, encoding.mark(), sample.length - encoding.mark(), encoding.charset());
            String name = encoding.charset().name().toLowerCase(Locale.ROOT);
            return new DecodedText(
                    in,
                    encoding.charset(),
                    reader,
                    start,
                    new Detected(ENCODING, name, encoding.confidence(), encoding.evidence()));
        } catch (IOException | RuntimeException e) {
            raw.close();
            throw e;
        }
    }

    /** Decodes bytes; those that are no characters become {@link #REPLACEMENT}. */
    public static CharsetDecoder decoder(Charset charset) {
        return charset.newDecoder()
                .replaceWith(String.valueOf(REPLACEMENT))
                .onMalformedInput(CodingErrorAction.REPLACE)
                .onUnmappableCharacter(CodingErrorAction.REPLACE);
    }

    private static CannotGoOn empty(String file) {
        return new CannotGoOn(Problem.at(
                new Place.InFile(file, 1),
                ProblemCode.FILE_EMPTY,
                "The file is empty.",
                "Ask the sender for the file again."));
    }

    private static Encoding encoding(FormatOptions options, byte[] sample) {
        String stated = options.text(ENCODING).orElse(null);
        if (stated == null) {
            return EncodingDetection.of(sample);
        }
        try {
            Charset charset = Charset.forName(stated);
            Encoding marked = EncodingDetection.byMark(sample);
            boolean wide = charset.name().startsWith("UTF-16") && marked.mark() == 2;
            boolean skip = marked.mark() > 0 && (wide || marked.charset().equals(charset));
            return new Encoding(wide ? marked.charset() : charset, skip ? marked.mark() : 0, 1, "stated");
        } catch (IllegalCharsetNameException | UnsupportedCharsetException e) {
            throw FormatOptions.malformed(
                    ENCODING,
                    "There is no encoding " + stated + ". Common ones are utf-8, windows-1252, iso-8859-1 and utf-16.");
        }
    }

    /** The finding about bytes that are none of the encoding's. */
    public Problem wrongEncoding(Place place, String what) {
        return Problem.at(
                place,
                ProblemCode.FILE_ENCODING,
                what + " holds bytes that are not " + encoding.value() + ".",
                "State the file's encoding in the job, such as encoding: windows-1252.");
    }
}
