package dev.nachlauf.core.function;

import java.util.ArrayDeque;
import java.util.Deque;

/** How many places a regular expression has once its counted repetitions are written out, as the engine does. */
final class PatternSize {
    private final String pattern;
    private final long most;
    private final Deque<Long> around = new ArrayDeque<>();
    /** Places of the group that is open, and those of the part that stood last in it. */
    private long places;

    private long last;
    private int at;

    private PatternSize(String pattern, long most) {
        this.pattern = pattern;
        this.most = most;
    }

    /** The places; any number beyond {@code most} means that there are more. Never less than the engine's. */
    static long of(String pattern, long most) {
        return new PatternSize(pattern, most).count();
    }

    private long count() {
        while (at < pattern.length() && places <= most) {
            char c = pattern.charAt(at++);
            switch (c) {
                case '\\' -> escaped();
                case '[' -> {
                    skipClass();
                    part(1);
                }
                case '(' -> {
                    around.push(places);
                    places = 0;
                }
                case ')' -> {
                    long group = places + 1;
                    places = around.isEmpty() ? 0 : around.pop();
                    part(group);
                }
                case '{' -> repeat();
                default -> part(1);
            }
        }
        return places + around.stream().mapToLong(Long::longValue).sum();
    }

    /** One character, or all that stand between {@code \Q} and {@code \E}, in which nothing has a meaning. */
    private void escaped() {
        if (!pattern.startsWith("Q", at)) {
            at++;
            part(1);
            return;
        }
        int end = pattern.indexOf("\\E", at);
        int quoted = (end < 0 ? pattern.length() : end) - at - 1;
        places += quoted;
        last = Math.min(1, quoted);
        at = end < 0 ? pattern.length() : end + 2;
    }

    private void part(long size) {
        last = size;
        places += size;
    }

    private void skipClass() {
        // a bracket that stands first is an ordinary one
        at += pattern.startsWith("^", at) ? 2 : 1;
        while (at < pattern.length() && pattern.charAt(at) != ']') {
            at += pattern.charAt(at) == '\\' ? 2 : 1;
        }
        at++;
    }

    /** {@code {n}}, {@code {n,}} and {@code {n,m}}; other braces are ordinary characters. */
    private void repeat() {
        int end = pattern.indexOf('}', at);
        String counts = end < 0 ? "" : pattern.substring(at, end);
        if (!counts.matches("[0-9]{1,9}(,[0-9]{0,9})?")) {
            part(1);
            return;
        }
        long times = 1;
        for (String count : counts.split(",")) {
            times = Math.max(times, Long.parseLong(count));
        }
        at = end + 1;
        places += last * (times - 1);
        last *= times;
    }
}
