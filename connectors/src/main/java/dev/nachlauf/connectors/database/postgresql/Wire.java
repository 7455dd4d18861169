package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.value.Kind;

/** How a column's values travel: the base type of its staging column and its binary form. */
enum Wire {
    BOOL("boolean", Kind.BOOLEAN, CellCodec.TRUTH),
    INT2("smallint", Kind.INTEGER, CellCodec.INT2),
    INT4("integer", Kind.INTEGER, CellCodec.INT4),
    INT8("bigint", Kind.INTEGER, CellCodec.INT8),
    NUMERIC("numeric", Kind.DECIMAL, CellCodec.DECIMAL),
    TEXT("text", Kind.TEXT, CellCodec.TEXT),
    DATE("date", Kind.DATE, CellCodec.DATE),
    TIME("time", Kind.TIME, CellCodec.TIME),
    TIMESTAMP("timestamp", Kind.TIMESTAMP, CellCodec.TIMESTAMP),
    /** With zone: the text of the value in UTC. */
    TIMESTAMPTZ("timestamptz", Kind.TIMESTAMP, CellCodec.TIMESTAMP),
    /** Every other type travels as its text and is cast on both ways. */
    OTHER("text", Kind.TEXT, CellCodec.TEXT),
    /** Binary fractions travel as exact numbers and are cast on both ways. */
    FLOAT("numeric", Kind.DECIMAL, CellCodec.DECIMAL);

    private final String base;
    private final Kind kind;
    private final CellCodec codec;

    Wire(String base, Kind kind, CellCodec codec) {
        this.base = base;
        this.kind = kind;
        this.codec = codec;
    }

    String base() {
        return base;
    }

    Kind kind() {
        return kind;
    }

    /** Its binary form. */
    CellCodec codec() {
        return codec;
    }

    /** Whether two values are equal exactly where their cells are. */
    boolean isExact() {
        return codec != CellCodec.DECIMAL && !needsCast();
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
