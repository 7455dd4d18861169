package dev.nachlauf.core.function;

import static dev.nachlauf.core.value.Kind.BOOLEAN;
import static dev.nachlauf.core.value.Kind.INTEGER;
import static dev.nachlauf.core.value.Kind.TEXT;

import dev.nachlauf.core.function.Function.Topic;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.text.Normalizer;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** The functions on text. Positions and lengths count code points. */
final class TextFunctions {
    /** A search compares several characters in the time of one step. */
    private static final int CHARACTERS_PER_STEP = 16;

    private static final String LONG = "The result is longer than 1,000,000 characters.";

    private TextFunctions() {}

    private static Definition text(String name) {
        return Definition.of(Topic.TEXT, name).takes("text", TEXT).gives(TEXT);
    }

    static List<Function> all() {
        return List.of(
                text("char_length")
                        .gives(INTEGER)
                        .help("The number of characters (code points).")
                        .example("char_length('Hütte')", "5")
                        .is((a, b, c) -> length((String) a)),
                text("clean_spaces")
                        .help(
                                "The text without white space at both ends, and with one space for every white space inside.")
                        .example("clean_spaces('  Falkenkar   Hut ')", "Falkenkar Hut")
                        .is((a, b, c) -> cleanSpaces((String) a)),
                text("contains")
                        .takes("part", TEXT)
                        .gives(BOOLEAN)
                        .help("Whether the part occurs in the text; case counts.")
                        .example("contains('Falkenkar Hut', 'kar')", "true")
                        .is((a, b, c) -> contains((String) a, string(b))),
                text("digits")
                        .help("The digits 0 to 9 of the text, everything else left out.")
                        .example("digits('0664/123-4')", "06641234")
                        .is((a, b, c) -> digits((String) a)),
                text("ends_with")
                        .takes("end", TEXT)
                        .gives(BOOLEAN)
                        .help("Whether the text ends with another; case counts.")
                        .example("ends_with('H-017', '17')", "true")
                        .is((a, b, c) -> ((String) a).endsWith(string(b))),
                text("initcap")
                        .help(
                                "Every word with a capital letter first and small letters behind; words are letters and digits.")
                        .example("initcap('falkenkar HUT')", "Falkenkar Hut")
                        .is((a, b, c) -> initcap((String) a)),
                text("left")
                        .takes("count", INTEGER)
                        .help("The first characters; with a negative count all but the last so many.")
                        .example("left('H-017', 1)", "H")
                        .is((a, b, c) -> left((String) a, number(b))),
                text("lower")
                        .help("The text in small letters, one to one by code point.")
                        .example("lower('H-017')", "h-017")
                        .is((a, b, c) -> lower((String) a)),
                text("pad_left")
                        .takes("length", INTEGER)
                        .perhaps("fill", TEXT)
                        .help(
                                "The text filled up at its start, with spaces unless told; a longer one is cut at its end.")
                        .errors(LONG)
                        .example("pad_left('17', 3, '0')", "017")
                        .is((a, b, c) -> pad((String) a, number(b), c, true)),
                text("pad_right")
                        .takes("length", INTEGER)
                        .perhaps("fill", TEXT)
                        .help("The text filled up at its end, with spaces unless told; a longer one is cut at its end.")
                        .errors(LONG)
                        .example("pad_right('H', 3, '.')", "H..")
                        .is((a, b, c) -> pad((String) a, number(b), c, false)),
                Definition.of(Topic.TEXT, "position")
                        .takes("part", TEXT)
                        .takes("text", TEXT)
                        .gives(INTEGER)
                        .help("Where a part begins in a text, from 1; 0 where it does not occur.")
                        .example("position('-', 'H-017')", "2")
                        .is((a, b, c) -> position((String) a, string(b))),
                text("repeat")
                        .takes("times", INTEGER)
                        .help("The text so many times in a row; empty where that is less than one.")
                        .errors(LONG)
                        .example("repeat('ab', 3)", "ababab")
                        .is((a, b, c) -> repeat((String) a, number(b))),
                text("replace")
                        .takes("from", TEXT)
                        .takes("to", TEXT)
                        .help("The text with every occurrence of the second argument replaced by the third.")
                        .errors(LONG)
                        .example("replace('0664/123-4', '-', '')", "0664/1234")
                        .is((a, b, c) -> replace((String) a, string(b), string(c))),
                text("right")
                        .takes("count", INTEGER)
                        .help("The last characters; with a negative count all but the first so many.")
                        .example("right('H-017', 3)", "017")
                        .is((a, b, c) -> right((String) a, number(b))),
                text("split_part")
                        .takes("separator", TEXT)
                        .takes("number", INTEGER)
                        .help("The part with a number (from 1, or from the end with -1) between separators; empty where"
                                + " there is none.")
                        .errors("The number is 0.")
                        .example("split_part('adult / summer', ' / ', 2)", "summer")
                        .is((a, b, c) -> splitPart((String) a, string(b), number(c))),
                text("starts_with")
                        .takes("start", TEXT)
                        .gives(BOOLEAN)
                        .help("Whether the text starts with another; case counts.")
                        .example("starts_with('H-017', 'H-')", "true")
                        .is((a, b, c) -> ((String) a).startsWith(string(b))),
                text("substring")
                        .takes("start", INTEGER)
                        .perhaps("count", INTEGER)
                        .help("The characters from a position (counted from 1) on, all or a number of them.")
                        .errors("The count is negative.")
                        .example("substring('H-017', 3, 3)", "017")
                        .is((a, b, c) -> substring((String) a, number(b), (Long) c)),
                text("trim")
                        .perhaps("characters", TEXT)
                        .help(
                                "The text without these characters (spaces unless told) at both ends; other white space stays.")
                        .example("trim('  Falkenkar Hut ')", "Falkenkar Hut")
                        .is((a, b, c) -> trim((String) a, (String) b, true, true)),
                text("trim_end")
                        .perhaps("characters", TEXT)
                        .help("The text without these characters (spaces unless told) at its end.")
                        .example("trim_end('24.500', '0')", "24.5")
                        .is((a, b, c) -> trim((String) a, (String) b, false, true)),
                text("trim_start")
                        .perhaps("characters", TEXT)
                        .help("The text without these characters (spaces unless told) at its start.")
                        .example("trim_start('00170', '0')", "170")
                        .is((a, b, c) -> trim((String) a, (String) b, true, false)),
                text("upper")
                        .help("The text in capital letters, one to one by code point (ß stays).")
                        .example("upper('h-017')", "H-017")
                        .is((a, b, c) -> upper((String) a)),
                text("without_accents")
                        .help("The text without accents and other marks on its letters; ß, ø, ł and their like stay.")
                        .example("without_accents('Süd-Joch à l''été')", "Sud-Joch a l'ete")
                        .is((a, b, c) -> withoutAccents((String) a)));
    }

    private static String string(@Nullable Object argument) {
        return argument == null ? "" : (String) argument;
    }

    private static long number(@Nullable Object argument) {
        return argument == null ? 0 : (Long) argument;
    }

    static Long length(String text) {
        return (long) text.codePointCount(0, text.length());
    }

    static String upper(String text) {
        // for these characters the library maps one to one too, and without a detour
        return isPlain(text) ? text.toUpperCase(Locale.ROOT) : changes(text, true) ? mapped(text, true) : text;
    }

    static String lower(String text) {
        return isPlain(text) ? text.toLowerCase(Locale.ROOT) : changes(text, false) ? mapped(text, false) : text;
    }

    private static boolean isPlain(String text) {
        for (int i = 0; i < text.length(); i++) {
            if (text.charAt(i) > 0x7f) {
                return false;
            }
        }
        return true;
    }

    private static boolean changes(String text, boolean up) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (Character.isSurrogate(c) || c != (up ? Character.toUpperCase(c) : Character.toLowerCase(c))) {
                return true;
            }
        }
        return false;
    }

    private static String mapped(String text, boolean up) {
        StringBuilder out = new StringBuilder(text.length());
        for (int i = 0; i < text.length(); ) {
            int point = text.codePointAt(i);
            i += Character.charCount(point);
            out.appendCodePoint(up ? Character.toUpperCase(point) : Character.toLowerCase(point));
        }
        return out.toString();
    }

    private static String initcap(String text) {
        StringBuilder out = new StringBuilder(text.length());
        boolean inside = false;
        for (int i = 0; i < text.length(); ) {
            int point = text.codePointAt(i);
            i += Character.charCount(point);
            out.appendCodePoint(inside ? Character.toLowerCase(point) : Character.toUpperCase(point));
            inside = Character.isLetterOrDigit(point);
        }
        return out.toString();
    }

    private static String cleanSpaces(String text) {
        StringBuilder out = new StringBuilder(text.length());
        boolean space = false;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (Character.isWhitespace(c) || Character.isSpaceChar(c)) {
                space = !out.isEmpty();
            } else {
                if (space) {
                    out.append(' ');
                    space = false;
                }
                out.append(c);
            }
        }
        return out.toString();
    }

    static String digits(String text) {
        StringBuilder out = new StringBuilder(text.length());
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c >= '0' && c <= '9') {
                out.append(c);
            }
        }
        return out.toString();
    }

    private static String withoutAccents(String text) {
        if (Normalizer.isNormalized(text, Normalizer.Form.NFD)) {
            return text;
        }
        StringBuilder out = new StringBuilder(text.length());
        Normalizer.normalize(text, Normalizer.Form.NFD)
                .codePoints()
                .filter(point -> Character.getType(point) != Character.NON_SPACING_MARK)
                .forEach(out::appendCodePoint);
        return Normalizer.normalize(out, Normalizer.Form.NFC);
    }

    private static String trim(String text, @Nullable String characters, boolean atStart, boolean atEnd) {
        int start = 0;
        int end = text.length();
        if (characters == null) { // most calls: no search, no code points
            while (atStart && start < end && text.charAt(start) == ' ') {
                start++;
            }
            while (atEnd && end > start && text.charAt(end - 1) == ' ') {
                end--;
            }
            return text.substring(start, end);
        }
        requireCheapSearch(text, characters);
        while (atStart && start < end && characters.indexOf(text.codePointAt(start)) >= 0) {
            start += Character.charCount(text.codePointAt(start));
        }
        while (atEnd && end > start && characters.indexOf(text.codePointBefore(end)) >= 0) {
            end -= Character.charCount(text.codePointBefore(end));
        }
        return text.substring(start, end);
    }

    /** Looking for each part of one text in another costs both lengths at worst. */
    private static void requireCheapSearch(String text, String part) {
        Values.requireCheap((long) text.length() * part.length() / CHARACTERS_PER_STEP);
    }

    private static boolean contains(String text, String part) {
        requireCheapSearch(text, part);
        return text.contains(part);
    }

    private static String replace(String text, String from, String to) {
        requireCheapSearch(text, from);
        if (from.isEmpty() || !text.contains(from)) {
            return text;
        }
        if (to.length() > from.length()) {
            Values.requireShort((long) text.length() / from.length() * to.length());
        }
        return text.replace(from, to);
    }

    private static String repeat(String text, long times) {
        if (times < 1 || text.isEmpty()) {
            return "";
        }
        Values.requireShort(times > Values.LONGEST_TEXT ? times : times * text.length());
        return text.repeat((int) times);
    }

    private static String pad(String text, long length, @Nullable Object fill, boolean atStart) {
        String filling = fill == null ? " " : (String) fill;
        long has = length(text);
        if (length <= 0 || has >= length || filling.isEmpty()) {
            return left(text, Math.max(0, length));
        }
        Values.requireShort(length);
        int missing = (int) (length - has);
        long each = length(filling);
        String filler = left(filling.repeat((int) (missing / each + 1)), missing);
        return atStart ? filler + text : text + filler;
    }

    private static String left(String text, long count) {
        long length = length(text);
        long wanted = count < 0 ? length + count : Math.min(count, length);
        return wanted <= 0 ? "" : text.substring(0, text.offsetByCodePoints(0, (int) wanted));
    }

    private static String right(String text, long count) {
        long length = length(text);
        long wanted = count < 0 ? length + count : Math.min(count, length);
        return wanted <= 0 ? "" : text.substring(text.offsetByCodePoints(0, (int) (length - wanted)));
    }

    private static Long position(String part, String text) {
        requireCheapSearch(text, part);
        int at = text.indexOf(part);
        return at < 0 ? 0L : text.codePointCount(0, at) + 1L;
    }

    private static String splitPart(String text, String separator, long number) {
        if (number == 0) {
            throw new ValueProblem(ProblemCode.OUT_OF_RANGE, "split_part counts from 1, or from the end with -1.");
        }
        requireCheapSearch(text, separator);
        if (separator.isEmpty()) {
            return number == 1 || number == -1 ? text : "";
        }
        long left = number > 0 ? number : parts(text, separator) + number + 1;
        int start = 0;
        while (left > 1 && start >= 0) {
            int at = text.indexOf(separator, start);
            start = at < 0 ? -1 : at + separator.length();
            left--;
        }
        if (left < 1 || start < 0) {
            return "";
        }
        int end = text.indexOf(separator, start);
        return text.substring(start, end < 0 ? text.length() : end);
    }

    private static long parts(String text, String separator) {
        long parts = 1;
        for (int at = text.indexOf(separator); at >= 0; at = text.indexOf(separator, at + separator.length())) {
            parts++;
        }
        return parts;
    }

    /** As in ISO/IEC 9075: the start may lie before the text, and what lies before it counts towards the count. */
    private static String substring(String text, long start, @Nullable Long count) {
        long length = length(text);
        long end = length + 1;
        if (count != null) {
            if (count < 0) {
                throw new ValueProblem(ProblemCode.OUT_OF_RANGE, "substring can't take a negative count.");
            }
            // a sum beyond 64 bits lies behind every text
            long sum = start + count;
            end = sum < start ? end : Math.min(end, sum);
        }
        long first = Math.max(1, start);
        if (first >= end) {
            return "";
        }
        int from = text.offsetByCodePoints(0, (int) (first - 1));
        return text.substring(from, text.offsetByCodePoints(from, (int) (end - first)));
    }
}
