package dev.nachlauf.api;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Why a field of a record holds what it holds: the run that has written it, and the way of the value from the source, which
 * was gone once more.
 *
 * @param by who has started or released the run
 * @param at when the run ended
 * @param row the row of the source, from 1
 * @param place where the row stands, for people
 * @param written what the ledger says that was written; null for nothing
 * @param same whether the way leads to what was written
 * @param notes what else is to be known, each a sentence
 * @param way from the map back to the cells
 */
public record WhyView(
        long run,
        String job,
        int jobVersion,
        String by,
        Instant at,
        String write,
        long row,
        String place,
        String field,
        @Nullable String written,
        boolean same,
        List<String> notes,
        Link way) {
    /**
     * A link of the way.
     *
     * @param kind {@code map}, {@code set}, {@code cell}, {@code lookup}, {@code reference}, {@code made}, {@code fact} or
     *     {@code result}
     * @param name of the field or column
     * @param value null for none
     * @param how the formula, or in words what has made the value; empty for a cell
     * @param place of a cell; empty for what is none
     * @param translated what crosswalks translated in the formula
     * @param from what it was made of
     */
    public record Link(
            String kind,
            String name,
            @Nullable String value,
            String how,
            String place,
            List<TranslationView> translated,
            List<Link> from) {}
}
