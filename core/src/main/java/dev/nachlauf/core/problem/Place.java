package dev.nachlauf.core.problem;

import dev.nachlauf.core.text.Position;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.text.Span;
import org.jspecify.annotations.Nullable;

/** Where a finding stands. A finding without a place has {@link Nowhere}, never a line 0. */
public sealed interface Place {

    /** A stretch of a text that somebody wrote. */
    record InText(SourceText source, Span span) implements Place {
        /** Line and column of the start. */
        public Position position() {
            return source.position(span.start());
        }
    }

    /**
     * A field of the row at hand.
     *
     * @param value the value found there; null where it was null or is not shown
     * @param at where the value stands in the source, for people; null where it is not that of a single cell
     */
    record InField(
            String field, @Nullable String value, @Nullable String at) implements Place {
        public InField(String field, @Nullable String value) {
            this(field, value, null);
        }
    }

    /** A line of a source file, counted from 1. */
    record InFile(String file, long line) implements Place {}

    /** A setting of a connection or of the service. */
    record InSetting(String name) implements Place {}

    /** No place: the finding concerns the whole. */
    record Nowhere() implements Place {}

    /** The shared instance of {@link Nowhere}. */
    Place NOWHERE = new Nowhere();
}
