package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How many records there are.
 *
 * @param by the fields by which they are counted
 * @param groups how many have the same values there, most first; empty where they are counted as a whole
 * @param note what else there is to say; empty where there is nothing
 */
public record CountedRecords(long count, List<String> by, List<Group> groups, String note) {
    /**
     * Records that agree.
     *
     * @param values in the order of {@code by}; null for empty ones
     */
    public record Group(List<@Nullable String> values, long count) {}
}
