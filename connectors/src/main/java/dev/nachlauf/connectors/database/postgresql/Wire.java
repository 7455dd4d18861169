package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.core.value.Kind;

/** How a column's values travel: the base type of its staging column and its binary form. */
enum Wire {
    BOOL("boolean", Kind.BOOLEAN),
    INT2("smallint", Kind.INTEGER),
    INT4("integer", Kind.INTEGER),
    INT8("bigint", Kind.INTEGER),
    NUMERIC("numeric", Kind.DECIMAL),
    TEXT("text", Kind.TEXT),
    DATE("date", Kind.DATE),
    TIME("time", Kind.TIME),
    TIMESTAMP("timestamp", Kind.TIMESTAMP),
    /** With zone: the text of the value in UTC. */
    TIMESTAMPTZ("timestamptz", Kind.TIMESTAMP),
    /** Every other type travels as its text and is cast on both ways. */
    OTHER("text", Kind.TEXT),
    /** Binary fractions travel as exact numbers and are cast on both ways. */
    FLOAT("numeric", Kind.DECIMAL);

    private final String base;
    private final Kind kind;

    Wire(String base, Kind kind) {
        this.base = base;
        this.kind = kind;
    }

    String base() {
        return base;
    }

    Kind kind() {
        return kind;
    }

    boolean needsCast() {
        return this == OTHER || this == FLOAT;
    }

    /** By the name of the type in the catalogue. */
    static Wire of(String typeName) {
        return switch (typeName) {
            case "bool" -> BOOL;
            case "int2" -> INT2;
            case "int4" -> INT4;
            case "int8" -> INT8;
            case "numeric" -> NUMERIC;
            case "text", "varchar" -> TEXT;
            case "date" -> DATE;
            case "time" -> TIME;
            case "timestamp" -> TIMESTAMP;
            case "timestamptz" -> TIMESTAMPTZ;
            case "float4", "float8" -> FLOAT;
            default -> OTHER;
        };
    }
}
