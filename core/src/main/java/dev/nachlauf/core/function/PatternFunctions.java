package dev.nachlauf.core.function;

import static dev.nachlauf.core.value.Kind.BOOLEAN;
import static dev.nachlauf.core.value.Kind.INTEGER;
import static dev.nachlauf.core.value.Kind.TEXT;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import dev.nachlauf.core.function.Function.Body;
import dev.nachlauf.core.function.Function.Topic;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.util.List;
import java.util.function.BiFunction;
import org.jspecify.annotations.Nullable;

/**
 * Regular expressions in linear time, so that no pattern can hang a run: no look-around and no back references. What
 * people write as phone numbers and e-mail addresses stands here too.
 */
final class PatternFunctions {
    private static final int LONGEST_PATTERN = 1_000;
    /** The most places of a pattern with its repetitions written out, as the engine does. */
    private static final int MOST_PLACES = 10_000;

    private static final String MALFORMED = "The pattern is malformed, or too large.";
    private static final Pattern EMAIL =
            Pattern.compile("[\\pL\\pN._%+'-]{1,64}@(?:[\\pL\\pN](?:[\\pL\\pN-]{0,61}[\\pL\\pN])?\\.)+[\\pL]{2,63}");
    private static final Pattern PHONE = Pattern.compile("\\+[1-9][0-9]{6,14}");

    private PatternFunctions() {}

    private static Definition text(String name) {
        return Definition.of(Topic.PATTERNS, name).takes("text", TEXT).gives(TEXT);
    }

    static List<Function> all() {
        return List.of(
                text("find_match")
                        .takes("pattern", TEXT)
                        .perhaps("group", INTEGER)
                        .help(
                                "The first part that the regular expression matches, or a group of it; null where there is"
                                        + " none.")
                        .errors(MALFORMED + " Or it has no such group.")
                        .example("find_match('Hut no. 17, east', '[0-9]+')", "17")
                        .prepared((pattern, group) -> withPattern(pattern, (matcher, c) -> find(matcher, (Long) c))),
                text("is_email")
                        .gives(BOOLEAN)
                        .help("Whether the text has the shape of one e-mail address.")
                        .example("is_email('warden@falkenkar.example')", "true")
                        .is((a, b, c) -> ((String) a).length() <= 254 && EMAIL.matches((String) a)),
                text("is_phone")
                        .gives(BOOLEAN)
                        .help(
                                "Whether the text has the shape of an international number as in E.164, such as +436641234567.")
                        .example("is_phone('+43 664 1234567')", "false")
                        .is((a, b, c) -> PHONE.matches((String) a)),
                text("matches")
                        .takes("pattern", TEXT)
                        .gives(BOOLEAN)
                        .help("Whether the regular expression matches the whole text.")
                        .errors(MALFORMED)
                        .example("matches('H-017', '[A-Z]-[0-9]{3}')", "true")
                        .prepared((pattern, none) -> withPattern(pattern, (matcher, c) -> matcher.matches())),
                text("phone")
                        .takes("country", TEXT)
                        .help("A phone number as in E.164: spaces, hyphens and brackets left out, 00 read as +, and a"
                                + " leading 0 replaced by the country's code.")
                        .errors("What remains is no number of 7 to 15 digits.")
                        .example("phone('0664 / 123 45 67', '43')", "+436641234567")
                        .is((a, b, c) -> phone((String) a, String.valueOf(b))),
                text("replace_matches")
                        .takes("pattern", TEXT)
                        .takes("replacement", TEXT)
                        .help(
                                "The text with every match replaced; $1 in the replacement is the first group, \\$ a dollar"
                                        + " sign.")
                        .errors(MALFORMED + " Or the replacement names a group that it lacks.")
                        .example("replace_matches('h 017', '([a-z]) ([0-9]+)', '$1-$2')", "h-017")
                        .prepared((pattern, replacement) ->
                                withPattern(pattern, (matcher, c) -> replaced(matcher, String.valueOf(c)))));
    }

    /** What is done with a pattern, a text and the third argument. */
    private interface Use {
        @Nullable
        Object apply(Matcher matcher, @Nullable Object third);
    }

    /** A constant pattern is compiled once; another one is compiled when it differs from the row before. */
    private static Body withPattern(@Nullable Object constant, Use use) {
        if (constant instanceof String text) {
            Compiled compiled = compile(text);
            return (a, b, c) -> use.apply(compiled.over((String) a), c);
        }
        BiFunction<@Nullable Compiled, String, Compiled> latest =
                (last, text) -> last != null && last.text.equals(text) ? last : compile(text);
        return new Body() {
            private volatile @Nullable Compiled last;

            @Override
            public @Nullable Object apply(Object a, @Nullable Object b, @Nullable Object c) {
                Compiled compiled = latest.apply(last, String.valueOf(b));
                last = compiled;
                return use.apply(compiled.over((String) a), c);
            }
        };
    }

    private record Compiled(String text, Pattern pattern, long places) {
        Matcher over(String value) {
            return pattern.matcher(MeteredText.of(value, places));
        }
    }

    private static Compiled compile(String text) {
        if (text.length() > LONGEST_PATTERN) {
            throw new ValueProblem(
                    ProblemCode.OUT_OF_RANGE, "A pattern has at most " + LONGEST_PATTERN + " characters.");
        }
        long places = PatternSize.of(text, MOST_PLACES);
        if (places > MOST_PLACES) {
            throw new ValueProblem(
                    ProblemCode.OUT_OF_RANGE,
                    "With its repetitions written out the pattern has more than " + MOST_PLACES + " places.");
        }
        try {
            return new Compiled(text, Pattern.compile(text), Math.max(1, places));
        } catch (PatternSyntaxException e) {
            throw new ValueProblem(
                    ProblemCode.VALUE_MALFORMED,
                    "'" + Values.shortened(text) + "' is no regular expression: " + e.getDescription() + ".");
        }
    }

    private static @Nullable String find(Matcher matcher, @Nullable Long group) {
        int wanted = group == null ? 0 : (int) Math.clamp(group, -1, LONGEST_PATTERN);
        if (wanted < 0 || wanted > matcher.groupCount()) {
            throw new ValueProblem(
                    ProblemCode.OUT_OF_RANGE, "The pattern has " + matcher.groupCount() + " groups, no " + group + ".");
        }
        return matcher.find() ? matcher.group(wanted) : null;
    }

    private static String replaced(Matcher matcher, String replacement) {
        try {
            StringBuffer result = new StringBuffer();
            while (matcher.find()) {
                matcher.appendReplacement(result, replacement);
                Values.requireShort(result.length());
            }
            matcher.appendTail(result);
            Values.requireShort(result.length());
            return result.toString();
        } catch (IndexOutOfBoundsException | IllegalArgumentException e) {
            throw new ValueProblem(
                    ProblemCode.VALUE_MALFORMED,
                    "The replacement '" + Values.shortened(replacement) + "' names a group that the pattern lacks.");
        }
    }

    private static String phone(String text, String country) {
        StringBuilder digits = new StringBuilder(text.length());
        boolean international = false;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c >= '0' && c <= '9') {
                digits.append(c);
            } else if (c == '+' && digits.isEmpty()) {
                international = true;
            } else if (" ()-./\u00a0\u202f".indexOf(c) < 0) {
                throw notAPhone(text);
            }
        }
        String number = digits.toString();
        if (!international && number.startsWith("00")) {
            number = number.substring(2);
        } else if (!international && number.startsWith("0")) {
            number = TextFunctions.digits(country) + number.substring(1);
        } else if (!international) {
            throw notAPhone(text);
        }
        String normal = "+" + number;
        if (!PHONE.matches(normal)) {
            throw notAPhone(text);
        }
        return normal;
    }

    private static ValueProblem notAPhone(String text) {
        return new ValueProblem(
                ProblemCode.VALUE_MALFORMED,
                "'" + Values.shortened(text) + "' is not a phone number that starts with +, 00 or 0.");
    }
}
