package dev.nachlauf.core.template;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** How a value is spelled in a text, so that nothing in it can be taken for a part of the text. */
public enum Escape {
    /** As it is, whatever it holds. */
    NONE,
    /** On one line: line ends and other control characters become spaces. */
    LINE,
    /** Between double quotes: these are doubled; on one line. */
    QUOTES,
    /** With a backslash before backslashes and quotes, and control characters spelled out as in C. */
    BACKSLASH,
    /** For the content of elements and attributes of XML 1.0; what XML has no place for becomes U+FFFD. */
    XML,
    /** For a string of JSON (RFC 8259), without the quotes around it. */
    JSON,
    /** Percent-encoded UTF-8 (RFC 3986). */
    URL;

    /** The word in a job. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The one with this word. */
    public static Optional<Escape> of(String word) {
        return Arrays.stream(values()).filter(one -> one.word().equals(word)).findFirst();
    }

    /** All words. */
    public static List<String> words() {
        return Arrays.stream(values()).map(Escape::word).toList();
    }

    /** The value as it stands in the text. */
    public String spell(String text) {
        return switch (this) {
            case NONE -> text;
            case LINE -> line(text);
            case QUOTES -> line(text).replace("\"", "\"\"");
            case BACKSLASH, JSON -> spelled(text);
            case XML -> xml(text);
            case URL -> percent(text);
        };
    }

    private static boolean isControl(int c) {
        return Character.isISOControl(c) || c == '\u2028' || c == '\u2029';
    }

    private static String line(String text) {
        StringBuilder line = new StringBuilder(text.length());
        text.codePoints().forEach(c -> line.appendCodePoint(isControl(c) ? ' ' : c));
        return line.toString();
    }

    private String spelled(String text) {
        StringBuilder spelled = new StringBuilder(text.length() + 8);
        text.codePoints().forEach(c -> {
            switch (c) {
                case '\\' -> spelled.append("\\\\");
                case '"' -> spelled.append("\\\"");
                case '\'' -> spelled.append(this == BACKSLASH ? "\\'" : "'");
                case '\n' -> spelled.append("\\n");
                case '\r' -> spelled.append("\\r");
                case '\t' -> spelled.append("\\t");
                default -> {
                    if (isControl(c)) {
                        spelled.append(String.format(Locale.ROOT, "\\u%04x", c));
                    } else {
                        spelled.appendCodePoint(c);
                    }
                }
            }
        });
        return spelled.toString();
    }

    private static String percent(String text) {
        StringBuilder percent = new StringBuilder(text.length() + 8);
        for (byte one : text.getBytes(StandardCharsets.UTF_8)) {
            char c = (char) (one & 0xFF);
            boolean plain = c < 0x80 && (Character.isLetterOrDigit(c) || "-._~".indexOf(c) >= 0);
            percent.append(plain ? String.valueOf(c) : String.format(Locale.ROOT, "%%%02X", (int) c));
        }
        return percent.toString();
    }

    private static String xml(String text) {
        StringBuilder xml = new StringBuilder(text.length() + 8);
        text.codePoints().forEach(c -> {
            switch (c) {
                case '&' -> xml.append("&amp;");
                case '<' -> xml.append("&lt;");
                case '>' -> xml.append("&gt;");
                case '"' -> xml.append("&quot;");
                case '\'' -> xml.append("&apos;");
                case '\t', '\n', '\r' -> xml.append("&#").append(c).append(';');
                default -> xml.appendCodePoint(isXml(c) ? c : 0xFFFD);
            }
        });
        return xml.toString();
    }

    private static boolean isXml(int c) {
        return c >= 0x20 && c < 0xD800 || c >= 0xE000 && c < 0xFFFE || c >= 0x10000;
    }
}
