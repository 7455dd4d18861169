package dev.nachlauf.core.function;

import static dev.nachlauf.core.value.Kind.DECIMAL;
import static dev.nachlauf.core.value.Kind.INTEGER;
import static dev.nachlauf.core.value.Kind.TEXT;

import dev.nachlauf.core.function.Function.Parameter;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** All functions by name, in the order of the alphabet. */
public final class FunctionTable {
    private static final Map<String, Function> FUNCTIONS = new TreeMap<>();

    static {
        add(new Function(
                "char_length",
                List.of(new Parameter("text", TEXT)),
                1,
                INTEGER,
                "The number of characters (code points).",
                "",
                "char_length('Hütte')",
                "5",
                a -> TextFunctions.length((String) a[0])));
        add(new Function(
                "lower",
                List.of(new Parameter("text", TEXT)),
                1,
                TEXT,
                "The text in small letters, one to one by code point.",
                "",
                "lower('H-017')",
                "h-017",
                a -> TextFunctions.lower((String) a[0])));
        add(new Function(
                "replace",
                List.of(new Parameter("text", TEXT), new Parameter("from", TEXT), new Parameter("to", TEXT)),
                3,
                TEXT,
                "The text with every occurrence of the second argument replaced by the third.",
                "The result is longer than 1,000,000 characters.",
                "replace('0664/123-4', '-', '')",
                "0664/1234",
                a -> TextFunctions.replace((String) a[0], (String) a[1], (String) a[2])));
        add(new Function(
                "round",
                List.of(new Parameter("number", DECIMAL), new Parameter("digits", INTEGER)),
                1,
                DECIMAL,
                "The number rounded half away from zero, to a number of decimal digits (0 unless given).",
                "The digits are outside of -1000 to 1000.",
                "round(18.345, 2)",
                "18.35",
                NumberFunctions::round));
        add(new Function(
                "substring",
                List.of(new Parameter("text", TEXT), new Parameter("start", INTEGER), new Parameter("count", INTEGER)),
                2,
                TEXT,
                "The characters from a position (counted from 1) on, all or a number of them.",
                "The count is negative.",
                "substring('H-017', 3, 3)",
                "017",
                TextFunctions::substring));
        add(new Function(
                "trim",
                List.of(new Parameter("text", TEXT)),
                1,
                TEXT,
                "The text without spaces at both ends; other white space stays.",
                "",
                "trim('  Falkenkar Hut ')",
                "Falkenkar Hut",
                a -> TextFunctions.trim((String) a[0])));
        add(new Function(
                "upper",
                List.of(new Parameter("text", TEXT)),
                1,
                TEXT,
                "The text in capital letters, one to one by code point (ß stays).",
                "",
                "upper('h-017')",
                "H-017",
                a -> TextFunctions.upper((String) a[0])));
    }

    private FunctionTable() {}

    private static void add(Function function) {
        FUNCTIONS.put(function.name(), function);
    }

    /** The function with this name, which is in small letters. */
    public static Optional<Function> find(String name) {
        return Optional.ofNullable(FUNCTIONS.get(name));
    }

    /** All functions. */
    public static List<Function> all() {
        return List.copyOf(FUNCTIONS.values());
    }
}
