package dev.nachlauf.core.value;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** The kinds of value. */
public enum Kind {
    TEXT(String.class),
    /** 64 bits. */
    INTEGER(Long.class),
    /** Exact, of any scale. */
    DECIMAL(BigDecimal.class),
    BOOLEAN(Boolean.class),
    DATE(LocalDate.class),
    TIME(LocalTime.class),
    /** Without zone, to the microsecond. */
    TIMESTAMP(LocalDateTime.class);

    private final Class<?> type;

    Kind(Class<?> type) {
        this.type = type;
    }

    /** The Java class that holds a value of this kind. */
    public Class<?> type() {
        return type;
    }

    /** The word for this kind in job files and formulas. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The kind with this word. */
    public static Optional<Kind> of(String word) {
        return Arrays.stream(values()).filter(kind -> kind.word().equals(word)).findFirst();
    }

    /** All words, for messages. */
    public static List<String> words() {
        return Arrays.stream(values()).map(Kind::word).toList();
    }

    /** Whether values of this kind are numbers. */
    public boolean isNumber() {
        return this == INTEGER || this == DECIMAL;
    }
}
