package dev.nachlauf.core.job;

import dev.nachlauf.core.template.Escape;
import dev.nachlauf.core.template.TextTemplate;
import java.util.Optional;
import java.util.OptionalInt;

/**
 * How a file is written that is handed over.
 *
 * @param adds whether a file of the name that is there keeps its rows, and only those with the key of a row change
 * @param format how its rows are spelled; what is not said follows from the name
 * @param text how a text is made of its rows, which takes the place of a format
 * @param partsOf as many rows a file has at most; the rest goes into others
 * @param replaces whether a file that has the name already is replaced
 */
public record Issue(
        boolean adds, JobDefinition.Format format, Optional<Text> text, OptionalInt partsOf, boolean replaces) {
    /**
     * A text that is made of rows.
     *
     * @param head stands before them
     * @param each is made of each row; the names of its places are fields of the map
     * @param foot stands behind them
     * @param lineEnd how its lines end
     */
    public record Text(
            TextTemplate head, TextTemplate each, TextTemplate foot, Escape escape, String encoding, String lineEnd) {}
}
