package dev.nachlauf.connectors.format.delimited;

import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CoderResult;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.List;

/** What the first bytes of a file tell: its encoding and its delimiter. */
final class Detection {
    static final Charset WINDOWS_1252 = Charset.forName("windows-1252");
    private static final List<Character> DELIMITERS = List.of(';', ',', '\t', '|');

    private Detection() {}

    /** An encoding and how many bytes of a byte order mark stand before the text. */
    record Encoding(Charset charset, int mark) {}

    /** By byte order mark; else UTF-8 where the sample is valid UTF-8; else Windows-1252. */
    static Encoding encoding(byte[] sample) {
        Encoding marked = byMark(sample);
        if (marked.mark > 0) {
            return marked;
        }
        return new Encoding(isUtf8(sample) ? StandardCharsets.UTF_8 : WINDOWS_1252, 0);
    }

    /** The byte order mark's encoding, or UTF-8 without a mark. */
    static Encoding byMark(byte[] sample) {
        if (startsWith(sample, 0xEF, 0xBB, 0xBF)) {
            return new Encoding(StandardCharsets.UTF_8, 3);
        }
        if (startsWith(sample, 0xFE, 0xFF)) {
            return new Encoding(StandardCharsets.UTF_16BE, 2);
        }
        if (startsWith(sample, 0xFF, 0xFE)) {
            return new Encoding(StandardCharsets.UTF_16LE, 2);
        }
        return new Encoding(StandardCharsets.UTF_8, 0);
    }

    private static boolean startsWith(byte[] sample, int... mark) {
        if (sample.length < mark.length) {
            return false;
        }
        for (int i = 0; i < mark.length; i++) {
            if ((sample[i] & 0xFF) != mark[i]) {
                return false;
            }
        }
        return true;
    }

    /** A character that the sample's end cuts in two is no error. */
    private static boolean isUtf8(byte[] sample) {
        CharsetDecoder decoder = StandardCharsets.UTF_8
                .newDecoder()
                .onMalformedInput(CodingErrorAction.REPORT)
                .onUnmappableCharacter(CodingErrorAction.REPORT);
        CoderResult result = decoder.decode(ByteBuffer.wrap(sample), CharBuffer.allocate(sample.length + 1), false);
        try {
            if (result.isError()) {
                result.throwException();
            }
            return true;
        } catch (CharacterCodingException e) {
            return false;
        }
    }

    /** The candidate that stands most often outside of quotes in the header line; a semicolon where none does. */
    static char delimiter(String headerLine, char quote) {
        char best = ';';
        int most = 0;
        for (char candidate : DELIMITERS) {
            int count = count(headerLine, candidate, quote);
            if (count > most) {
                most = count;
                best = candidate;
            }
        }
        return best;
    }

    static int count(String line, char wanted, char quote) {
        boolean quoted = false;
        int count = 0;
        for (int i = 0; i < line.length(); i++) {
            char c = line.charAt(i);
            quoted ^= c == quote;
            count += c == wanted && !quoted ? 1 : 0;
        }
        return count;
    }
}
