package dev.nachlauf.core.profile;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.system.Detected;
import java.util.List;

/**
 * What a source holds.
 *
 * @param rows rows read
 * @param broken rows that the reader itself found something wrong with; they count in no field
 * @param remarks what fields have to do with each other
 * @param keys figures of the keys that were asked for, or of those that were searched
 * @param failures why reading ended before the source did; empty where it didn't
 */
public record Profile(
        List<Detected> options,
        long rows,
        long broken,
        List<FieldProfile> fields,
        List<Remark> remarks,
        List<KeyFigures> keys,
        List<Problem> failures) {
    /** Something that concerns several fields. */
    public record Remark(String about, List<String> fields, String sentence) {
        /** The fields hold the same in every row. */
        public static final String EQUAL = "equal";

        /** The field holds one and the same value in every row. */
        public static final String CONSTANT = "constant";

        /** Rows stand more than once with all their values. */
        public static final String REPEATED = "repeated";

        /** Two fields look swapped in some rows. */
        public static final String SWAPPED = "swapped";
    }
}
