package dev.nachlauf.connectors.format.xml;

import static java.time.format.DateTimeFormatter.ISO_LOCAL_DATE_TIME;

import dev.nachlauf.core.value.Values;
import java.time.LocalDateTime;
import java.util.Objects;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Values as XML 1.0 holds them. */
final class XmlText {
    /** Characters that XML 1.0 has no place for. */
    private static final Pattern NO_XML =
            Pattern.compile("[^\\t\\n\\r\\x20-\\uD7FF\\uE000-\\uFFFD\\x{10000}-\\x{10FFFF}]");

    private XmlText() {}

    /** A value as text; empty for null. */
    static String of(@Nullable Object value) {
        String text = value instanceof LocalDateTime moment ? ISO_LOCAL_DATE_TIME.format(moment) : Values.text(value);
        return NO_XML.matcher(Objects.requireNonNullElse(text, "")).replaceAll("\uFFFD");
    }

    /** A value between tags. */
    static String escaped(@Nullable Object value) {
        return of(value)
                .replace("&", "&amp;")
                .replace("<", "&lt;")
                .replace(">", "&gt;")
                .replace("\r", "&#13;");
    }

    /** A value in double quotes, where line breaks and tabs would become blanks. */
    static String quoted(@Nullable Object value) {
        return escaped(value).replace("\"", "&quot;").replace("\n", "&#10;").replace("\t", "&#9;");
    }
}
