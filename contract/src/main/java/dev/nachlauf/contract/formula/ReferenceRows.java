package dev.nachlauf.contract.formula;

import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.value.Kind;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.random.RandomGenerator;
import org.jspecify.annotations.Nullable;

/** The rows over which expressions are evaluated: two columns of each kind, with the values where rules bend. */
final class ReferenceRows {
    static final Shape SHAPE = new Shape(List.of(
            new Field("i", Kind.INTEGER),
            new Field("j", Kind.INTEGER),
            new Field("d", Kind.DECIMAL),
            new Field("e", Kind.DECIMAL),
            new Field("t", Kind.TEXT),
            new Field("u", Kind.TEXT),
            new Field("b", Kind.BOOLEAN),
            new Field("c", Kind.BOOLEAN),
            new Field("day", Kind.DATE),
            new Field("until", Kind.DATE),
            new Field("clock", Kind.TIME),
            new Field("at", Kind.TIMESTAMP),
            new Field("since", Kind.TIMESTAMP)));

    static final String TABLE = """
            CREATE TABLE v (r int PRIMARY KEY, i bigint, j bigint, d numeric, e numeric, t text, u text, b boolean,
              c boolean, day date, until date, clock time, at timestamp, since timestamp)""";

    private static final List<Long> INTEGERS =
            List.of(0L, 1L, -1L, 2L, 3L, 7L, -9L, 12L, 365L, 1_000_000L, Long.MAX_VALUE, Long.MIN_VALUE);
    private static final List<String> DECIMALS = List.of(
            "0",
            "0.00",
            "1",
            "-1.5",
            "2.5",
            "-2.5",
            "0.005",
            "12.50",
            "1000000.25",
            "123456789012345678.9",
            "0.0000000001",
            "-99999.99999",
            "3.14159",
            "7.000");
    private static final List<String> TEXTS = List.of(
            "",
            " ",
            "Falkenkar Hut",
            " Hut 7 ",
            "straße",
            "Ωmega 𝄞",
            "50%_a",
            "a\\b",
            "17",
            " 1.50 ",
            "true",
            "x",
            "aXbXc",
            "H-017",
            "éÉ",
            "zz'z");
    private static final List<LocalDate> DATES = List.of(
            LocalDate.of(2026, 5, 31),
            LocalDate.of(2024, 2, 29),
            LocalDate.of(1999, 12, 31),
            LocalDate.of(2000, 1, 1),
            LocalDate.of(2027, 1, 1),
            LocalDate.of(1950, 3, 1));
    private static final List<LocalTime> TIMES = List.of(
            LocalTime.MIDNIGHT, LocalTime.of(23, 59, 59, 999_999_000), LocalTime.of(7, 30), LocalTime.of(12, 0, 1));

    private ReferenceRows() {}

    /** One row; about one value in ten is null. */
    static @Nullable Object[] row(RandomGenerator random) {
        List<@Nullable Object> row = new ArrayList<>();
        for (Field field : SHAPE.fields()) {
            row.add(random.nextInt(10) == 0 ? null : value(field.kind(), random));
        }
        return row.toArray();
    }

    static Object value(Kind kind, RandomGenerator random) {
        return switch (kind) {
            case INTEGER -> one(INTEGERS, random);
            case DECIMAL -> new BigDecimal(one(DECIMALS, random));
            case TEXT -> one(TEXTS, random);
            case BOOLEAN -> random.nextBoolean();
            case DATE -> one(DATES, random);
            case TIME -> one(TIMES, random);
            case TIMESTAMP -> LocalDateTime.of(one(DATES, random), one(TIMES, random));
        };
    }

    static <T> T one(List<T> of, RandomGenerator random) {
        return of.get(random.nextInt(of.size()));
    }
}
