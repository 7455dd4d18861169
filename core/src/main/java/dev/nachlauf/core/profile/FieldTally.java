package dev.nachlauf.core.profile;

import dev.nachlauf.core.profile.FieldProfile.Misfit;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.source.Guess;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Counts one field, row by row, in bounded memory. */
final class FieldTally {
    private static final int MOST_VALUES = 5_000;
    private static final int MOST_SHAPES = 1_000;
    private static final int SHOWN_VALUES = 12;
    private static final int SHOWN_SHAPES = 8;
    private static final int SHOWN_MISFITS = 5;

    private final SourceField field;
    private final Guess guess;
    private final Kind kind;
    private final TextParser parser;
    private final DistinctCount distinct = new DistinctCount();
    private final ValueCounts values = new ValueCounts(MOST_VALUES);
    private final ValueCounts shapes = new ValueCounts(MOST_SHAPES);
    private final List<Misfit> examples = new ArrayList<>();
    private long filled;
    private long blank;
    private long misfits;
    private long shortest = Long.MAX_VALUE;
    private long longest;
    private @Nullable Object smallest;
    private @Nullable Object largest;
    /** Equal for two fields that hold the same in every row. */
    private long sameness = 1;

    FieldTally(SourceField field, Guess guess) {
        this.field = field;
        this.guess = guess;
        this.kind = guess.reading().kind();
        this.parser = guess.reading().parser();
    }

    /** Counts a cell and gives its shape; empty for a blank one. */
    String add(@Nullable Object cell, Origin origin) {
        String text = Values.text(cell);
        if (text == null || text.isBlank()) {
            blank++;
            sameness = 31 * sameness;
            return "";
        }
        filled++;
        sameness = 31 * sameness + text.hashCode();
        distinct.add(text);
        values.add(text);
        String shape = ValueShape.of(text);
        shapes.add(shape);
        long length = text.codePointCount(0, text.length());
        shortest = Math.min(shortest, length);
        longest = Math.max(longest, length);
        order(cell, text, origin);
        return shape;
    }

    private void order(@Nullable Object cell, String text, Origin origin) {
        Object value;
        try {
            value = kind == Kind.TEXT || cell == null ? text : Reading.read(cell, kind, parser);
        } catch (ValueProblem misfit) {
            misfits++;
            if (examples.size() < SHOWN_MISFITS) {
                examples.add(new Misfit(Values.shortened(text), origin.text(field)));
            }
            return;
        }
        if (smallest == null || Values.compare(value, smallest) < 0) {
            smallest = value;
        }
        if (largest == null || Values.compare(value, largest) > 0) {
            largest = value;
        }
    }

    long filled() {
        return filled;
    }

    long sameness() {
        return sameness;
    }

    String name() {
        return field.name();
    }

    FieldProfile profile() {
        return new FieldProfile(
                field,
                guess,
                filled,
                blank,
                distinct.count(),
                distinct.exact(),
                shown(smallest),
                shown(largest),
                filled == 0 ? 0 : shortest,
                longest,
                values.commonest(SHOWN_VALUES),
                values.exact(),
                shapes.commonest(SHOWN_SHAPES),
                misfits,
                List.copyOf(examples),
                kind == Kind.TEXT ? Spellings.groups(values.commonest(MOST_VALUES)) : List.of());
    }

    private static @Nullable String shown(@Nullable Object value) {
        return value == null ? null : Values.shortened(String.valueOf(Values.text(value)));
    }
}
