package dev.nachlauf.connectors.format.encoding;

import com.ibm.icu.text.CharsetDetector;
import com.ibm.icu.text.CharsetMatch;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.Locale;

/** What the first bytes of a text tell about its encoding. */
final class EncodingDetection {
    static final Charset WINDOWS_1252 = Charset.forName("windows-1252");
    private static final double OF_A_HUNDRED = 100;
    /** The library is often wrong about short texts: another encoding has to be this much likelier. */
    private static final int CLEARLY = 15;

    private EncodingDetection() {}

    /** An encoding, the length of the mark before the text, and why. */
    record Encoding(Charset charset, int mark, double confidence, String evidence) {}

    static Encoding of(byte[] sample) {
        Encoding marked = byMark(sample);
        if (marked.mark > 0) {
            return marked;
        }
        Encoding wide = byZeros(sample);
        if (wide.confidence > 0) {
            return wide;
        }
        if (isUtf8(sample)) {
            return isAscii(sample)
                    ? new Encoding(StandardCharsets.UTF_8, 0, 0.9, "the first bytes are plain ASCII")
                    : new Encoding(StandardCharsets.UTF_8, 0, 0.99, "the first bytes are valid UTF-8");
        }
        return oneByte(sample);
    }

    /** The byte order mark's encoding, or UTF-8 without a mark. */
    static Encoding byMark(byte[] sample) {
        if (startsWith(sample, 0xEF, 0xBB, 0xBF)) {
            return new Encoding(StandardCharsets.UTF_8, 3, 1, "byte order mark");
        }
        if (startsWith(sample, 0xFE, 0xFF)) {
            return new Encoding(StandardCharsets.UTF_16BE, 2, 1, "byte order mark");
        }
        if (startsWith(sample, 0xFF, 0xFE)) {
            return new Encoding(StandardCharsets.UTF_16LE, 2, 1, "byte order mark");
        }
        return new Encoding(StandardCharsets.UTF_8, 0, 0, "no byte order mark");
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

    /** Western text in UTF-16 has a zero in every second byte. */
    private static Encoding byZeros(byte[] sample) {
        int[] zeros = new int[2];
        for (int i = 0; i < sample.length; i++) {
            zeros[i % 2] += sample[i] == 0 ? 1 : 0;
        }
        int half = sample.length / 2;
        boolean even = half > 4 && zeros[0] > half * 0.7 && zeros[1] < half * 0.1;
        boolean odd = half > 4 && zeros[1] > half * 0.7 && zeros[0] < half * 0.1;
        return new Encoding(
                even ? StandardCharsets.UTF_16BE : StandardCharsets.UTF_16LE,
                0,
                even || odd ? 0.9 : 0,
                "every second byte is zero");
    }

    private static boolean isAscii(byte[] sample) {
        for (byte one : sample) {
            if (one < 0) {
                return false;
            }
        }
        return true;
    }

    /** A character that the sample's end cuts in two is no error. */
    private static boolean isUtf8(byte[] sample) {
        return !StandardCharsets.UTF_8
                .newDecoder()
                .onMalformedInput(CodingErrorAction.REPORT)
                .onUnmappableCharacter(CodingErrorAction.REPORT)
                .decode(ByteBuffer.wrap(sample), CharBuffer.allocate(sample.length + 1), false)
                .isError();
    }

    /** Windows-1252 unless the library finds another one clearly likelier. */
    private static Encoding oneByte(byte[] sample) {
        CharsetDetector detector = new CharsetDetector();
        detector.setText(sample);
        int western = 0;
        CharsetMatch best = null;
        for (CharsetMatch match : detector.detectAll()) {
            String name = match.getName().toLowerCase(Locale.ROOT);
            boolean single = name.startsWith("iso-8859-") || name.startsWith("windows-125");
            if (!single || !Charset.isSupported(match.getName())) {
                continue;
            }
            if (name.equals("iso-8859-1") || name.equals("windows-1252")) {
                western = Math.max(western, match.getConfidence());
            } else if (best == null || match.getConfidence() > best.getConfidence()) {
                best = match;
            }
        }
        if (best != null && best.getConfidence() > western + CLEARLY) {
            return new Encoding(
                    Charset.forName(best.getName()),
                    0,
                    best.getConfidence() / OF_A_HUNDRED,
                    "not UTF-8; the letters are distributed as in " + best.getLanguage());
        }
        return new Encoding(
                WINDOWS_1252,
                0,
                Math.max(0.5, western / OF_A_HUNDRED),
                "not UTF-8; Windows-1252 is the commonest of the others");
    }
}
