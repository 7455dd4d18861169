package dev.nachlauf.core.function;

import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.ValueProblem;

/** What the functions on text compute. Positions and lengths count code points. */
final class TextFunctions {
    private static final int LONGEST = 1_000_000;

    private TextFunctions() {}

    static Long length(String text) {
        return (long) text.codePointCount(0, text.length());
    }

    static String upper(String text) {
        int at = firstThatChanges(text, true);
        return at < 0 ? text : map(text, true);
    }

    static String lower(String text) {
        int at = firstThatChanges(text, false);
        return at < 0 ? text : map(text, false);
    }

    private static int firstThatChanges(String text, boolean up) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (Character.isSurrogate(c) || c != (up ? Character.toUpperCase(c) : Character.toLowerCase(c))) {
                return i;
            }
        }
        return -1;
    }

    private static String map(String text, boolean up) {
        StringBuilder out = new StringBuilder(text.length());
        text.codePoints().forEach(c -> out.appendCodePoint(up ? Character.toUpperCase(c) : Character.toLowerCase(c)));
        return out.toString();
    }

    static String trim(String text) {
        int start = 0;
        int end = text.length();
        while (start < end && text.charAt(start) == ' ') {
            start++;
        }
        while (end > start && text.charAt(end - 1) == ' ') {
            end--;
        }
        return text.substring(start, end);
    }

    static String replace(String text, String from, String to) {
        if (from.isEmpty() || !text.contains(from)) {
            return text;
        }
        if (to.length() > from.length() && (long) text.length() / from.length() * to.length() > LONGEST) {
            throw new ValueProblem(
                    ProblemCode.OUT_OF_RANGE, "The replaced text would be longer than 1,000,000 characters.");
        }
        return text.replace(from, to);
    }

    /** As in ISO/IEC 9075: the start may lie before the text, and what lies before it counts towards the count. */
    static String substring(Object[] arguments) {
        String text = (String) arguments[0];
        long start = (Long) arguments[1];
        long length = length(text);
        long end = length + 1;
        if (arguments.length == 3) {
            long count = (Long) arguments[2];
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
