package dev.nachlauf.core.function;

import java.util.List;

/**
 * What reads like a function but has a grammar, kinds or null behaviour of its own, so that the checker knows it.
 *
 * @param name its first word
 * @param pattern how it is written
 * @param nulls what it makes of null
 * @param errors when a row is rejected; empty when never
 * @param example a formula, executed as a test
 * @param exampleResult the canonical text of its result
 */
public record Form(
        String name, String pattern, String help, String nulls, String errors, String example, String exampleResult) {
    /** All of them, in the order of the alphabet. */
    public static final List<Form> ALL = List.of(
            new Form(
                    "case",
                    "case when condition then value … else value end",
                    "The value behind the first condition that is true.",
                    "Unknown is not true; without else null.",
                    "",
                    "case when 24 > 20 then 'large' else 'small' end",
                    "large"),
            new Form(
                    "case",
                    "case value when other then result … else result end",
                    "The result behind the first value that equals the one in front.",
                    "Null equals nothing; without else null.",
                    "",
                    "case 'W' when 'S' then 'summer' when 'W' then 'winter' end",
                    "winter"),
            new Form(
                    "cast",
                    "cast(value as kind)",
                    "The value as another kind; varchar(n) cuts, decimal(p, s) rounds half away from zero.",
                    "Null stays null.",
                    "The text is no value of the kind, or the number doesn't fit.",
                    "cast('24.50' as decimal)",
                    "24.50"),
            new Form(
                    "coalesce",
                    "coalesce(value, value, …)",
                    "The first value that is not null; those behind it are not computed.",
                    "Null where all are.",
                    "",
                    "coalesce(null, 'unknown')",
                    "unknown"),
            new Form(
                    "crosswalk",
                    "crosswalk('name', value[, scope])",
                    "The value's translation by a crosswalk, in the table of a scope where one is given.",
                    "Null stays null, unless the crosswalk says what an empty value becomes.",
                    "There is no translation (no-translation).",
                    "",
                    ""),
            new Form(
                    "extract",
                    "extract(part from value)",
                    "A part of a date, time or timestamp as an integer, second as a decimal with 6 digits: year, isoyear,"
                            + " quarter, month, week (ISO 8601), day, doy, dow (Sunday is 0), isodow (Monday is 1), hour,"
                            + " minute, second.",
                    "Null stays null.",
                    "",
                    "extract(isodow from date '2026-05-01')",
                    "5"),
            new Form(
                    "greatest",
                    "greatest(value, value, …)",
                    "The largest of the values.",
                    "Nulls are left out, as in PostgreSQL; null where all are.",
                    "",
                    "greatest(12, 24, null)",
                    "24"),
            new Form(
                    "least",
                    "least(value, value, …)",
                    "The smallest of the values.",
                    "Nulls are left out, as in PostgreSQL; null where all are.",
                    "",
                    "least(date '2026-05-01', date '2026-04-20')",
                    "2026-04-20"),
            new Form(
                    "nullif",
                    "nullif(value, other)",
                    "Null where both are equal, else the first.",
                    "The first where the other is null.",
                    "",
                    "coalesce(nullif('-', '-'), 'none')",
                    "none"),
            new Form(
                    "position",
                    "position(part in text)",
                    "Where a part begins, from 1; 0 where it does not occur.",
                    "Null where one is null.",
                    "",
                    "position('-' in 'H-017')",
                    "2"),
            new Form(
                    "substring",
                    "substring(text from start for count)",
                    "The characters from a position on; for may be left out.",
                    "Null where one is null.",
                    "The count is negative.",
                    "substring('H-017' from 3 for 3)",
                    "017"),
            new Form(
                    "trim",
                    "trim(both characters from text)",
                    "The text without these characters at both ends; leading and trailing take one end.",
                    "Null where one is null.",
                    "",
                    "trim(leading '0' from '00170')",
                    "170"));
}
