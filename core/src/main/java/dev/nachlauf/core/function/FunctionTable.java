package dev.nachlauf.core.function;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;

/** All functions by name, in the order of the alphabet. */
public final class FunctionTable {
    private static final Map<String, List<Function>> FUNCTIONS = new TreeMap<>();

    static {
        Stream.of(
                        TextFunctions.all(),
                        PatternFunctions.all(),
                        NumberFunctions.all(),
                        DateFunctions.all(),
                        ListFunctions.all(),
                        CodeFunctions.all())
                .flatMap(List::stream)
                .forEach(function -> FUNCTIONS
                        .computeIfAbsent(function.name(), name -> new ArrayList<>())
                        .add(function));
    }

    private FunctionTable() {}

    /** The functions with this name, which is in small letters; none where there is no such name. */
    public static List<Function> find(String name) {
        return List.copyOf(FUNCTIONS.getOrDefault(name, List.of()));
    }

    /** All functions. */
    public static List<Function> all() {
        return FUNCTIONS.values().stream().flatMap(List::stream).toList();
    }

    /** The names of functions and of forms. */
    public static List<String> names() {
        return Stream.concat(FUNCTIONS.keySet().stream(), Form.ALL.stream().map(Form::name))
                .distinct()
                .sorted()
                .toList();
    }
}
