package dev.nachlauf.core.crosswalk;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Many wildcard patterns as one automaton: a state is the set of places in all patterns that the characters so far have
 * reached. Its steps are remembered, so a value costs one step per character however many patterns there are.
 */
final class WildcardSet {
    private static final int ANY = -1;
    private static final int ONE = -2;
    /** States and steps remembered; beyond that they are computed anew, so a hostile file can't fill the memory. */
    private static final int MOST_REMEMBERED = 20_000;

    /** The symbols of all patterns, one after the other, each with an end behind it. */
    private final int[] symbols;
    /** For each end the index of its pattern; -1 elsewhere. */
    private final int[] ends;
    /** How many literal characters the patterns have; the more, the better a match. */
    private final int[] literals;

    private final Map<BitSet, State> states = new HashMap<>();
    private final State start;
    private int remembered;

    /** A set of places, the pattern that matches here, and the steps from here. */
    private static final class State {
        private final BitSet places;
        private final int accepts;
        private final Map<Integer, State> steps = new HashMap<>();

        State(BitSet places, int accepts) {
            this.places = places;
            this.accepts = accepts;
        }
    }

    private WildcardSet(List<String> patterns) {
        List<Integer> all = new ArrayList<>();
        List<Integer> endOf = new ArrayList<>();
        literals = new int[patterns.size()];
        BitSet first = new BitSet();
        for (int pattern = 0; pattern < patterns.size(); pattern++) {
            first.set(all.size());
            int[] points = patterns.get(pattern).codePoints().toArray();
            for (int i = 0; i < points.length; i++) {
                boolean escaped = points[i] == '\\' && i + 1 < points.length;
                int point = escaped ? points[++i] : points[i];
                boolean special = !escaped && (point == '*' || point == '?');
                all.add(special ? (point == '*' ? ANY : ONE) : point);
                endOf.add(-1);
                literals[pattern] += special ? 0 : 1;
            }
            all.add(0);
            endOf.add(pattern);
        }
        symbols = all.stream().mapToInt(Integer::intValue).toArray();
        ends = endOf.stream().mapToInt(Integer::intValue).toArray();
        start = state(closed(first));
    }

    /** The automaton; null where there are no patterns. */
    static @Nullable WildcardSet of(List<String> patterns) {
        return patterns.isEmpty() ? null : new WildcardSet(patterns);
    }

    /** The index of the pattern that matches best; -1 where none does. */
    synchronized int match(String text) {
        State at = start;
        for (int i = 0; i < text.length() && !at.places.isEmpty(); ) {
            int point = text.codePointAt(i);
            i += Character.charCount(point);
            at = step(at, point);
        }
        return at.places.isEmpty() ? -1 : at.accepts;
    }

    private State step(State from, int point) {
        State known = from.steps.get(point);
        if (known != null) {
            return known;
        }
        BitSet reached = new BitSet();
        for (int place = from.places.nextSetBit(0); place >= 0; place = from.places.nextSetBit(place + 1)) {
            if (ends[place] < 0) {
                if (symbols[place] == ANY) {
                    reached.set(place);
                } else if (symbols[place] == ONE || symbols[place] == point) {
                    reached.set(place + 1);
                }
            }
        }
        State to = state(closed(reached));
        if (remembered++ < MOST_REMEMBERED) {
            from.steps.put(point, to);
        }
        return to;
    }

    /** A star may also stand for nothing. */
    private BitSet closed(BitSet places) {
        for (int place = places.nextSetBit(0); place >= 0; place = places.nextSetBit(place + 1)) {
            if (ends[place] < 0 && symbols[place] == ANY) {
                places.set(place + 1);
            }
        }
        return places;
    }

    private State state(BitSet places) {
        State known = states.get(places);
        if (known != null) {
            return known;
        }
        int best = -1;
        for (int place = places.nextSetBit(0); place >= 0; place = places.nextSetBit(place + 1)) {
            int pattern = ends[place];
            if (pattern >= 0 && (best < 0 || literals[pattern] > literals[best])) {
                best = pattern;
            }
        }
        State state = new State(places, best);
        if (states.size() < MOST_REMEMBERED) {
            states.put(places, state);
        }
        return state;
    }
}
