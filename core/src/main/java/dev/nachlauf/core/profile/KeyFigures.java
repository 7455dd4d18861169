package dev.nachlauf.core.profile;

import java.util.List;

/**
 * Whether some fields together tell rows apart.
 *
 * @param filled rows in which none of them is blank
 * @param distinct different keys among those
 * @param repeated rows whose key stands in another row too
 * @param examples the keys that stand most often
 */
public record KeyFigures(List<String> fields, long filled, long distinct, long repeated, List<Repeat> examples) {
    /** A key, how often it stands, and the first of its rows. */
    public record Repeat(String key, long count, List<Long> rows) {}
}
