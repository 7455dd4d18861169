package dev.nachlauf.api;

import java.util.List;

/**
 * A write's part of the balance: {@code taken = inserted + updated + unchanged + deleted + issued + refused}.
 *
 * @param gone whether its records are those that the source no longer has, so that no row stands behind them
 * @param sensitive those of {@code fields} whose values are kept from those who look
 */
public record WriteCountView(
        String write,
        String connection,
        String records,
        boolean main,
        boolean gone,
        long taken,
        long inserted,
        long updated,
        long unchanged,
        long deleted,
        long issued,
        long refused,
        List<String> fields,
        List<String> keyFields,
        List<String> sensitive) {}
