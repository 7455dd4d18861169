package dev.nachlauf.core.function;

import static dev.nachlauf.core.value.Kind.BOOLEAN;
import static dev.nachlauf.core.value.Kind.INTEGER;
import static dev.nachlauf.core.value.Kind.TEXT;

import dev.nachlauf.core.function.Function.Topic;
import dev.nachlauf.core.value.ValueProblem;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.ObjectReadContext;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.json.JsonFactory;

/**
 * Functions on lists of plain values, which stand in a field as JSON: {@code ["bath","view"]}. A list of objects is a
 * record path of its own.
 */
final class ListFunctions {
    private static final String NO_LIST = "The text is no JSON list of plain values.";
    private static final int LONGEST_TEXT = 1_000_000;
    private static final int LONGEST_NUMBER = 1_000;
    private static final JsonFactory JSON = JsonFactory.builder()
            .streamReadConstraints(StreamReadConstraints.builder()
                    .maxNestingDepth(2)
                    .maxStringLength(LONGEST_TEXT)
                    .maxNumberLength(LONGEST_NUMBER)
                    .build())
            .build();

    private ListFunctions() {}

    private static Definition list(String name) {
        return Definition.of(Topic.LISTS, name).takes("list", TEXT).gives(TEXT).errors(NO_LIST);
    }

    static List<Function> all() {
        return List.of(
                list("list_contains")
                        .takes("value", TEXT)
                        .gives(BOOLEAN)
                        .help("Whether one of the values is this one; case counts.")
                        .example("list_contains('[\"bath\",\"view\"]', 'view')", "true")
                        .is((a, b, c) -> values((String) a).contains(String.valueOf(b))),
                list("list_item")
                        .takes("number", INTEGER)
                        .help(
                                "One of the values, counted from 1, from the end where the number is negative; null where there is none.")
                        .example("list_item('[\"bath\",\"view\"]', 2)", "view")
                        .is((a, b, c) -> item(values((String) a), Objects.requireNonNull((Long) b))),
                list("list_join")
                        .takes("separator", TEXT)
                        .help("The values with a text between them; nulls are left out.")
                        .example("list_join('[\"bath\",\"view\"]', '; ')", "bath; view")
                        .is((a, b, c) -> String.join(
                                String.valueOf(b),
                                values((String) a).stream()
                                        .filter(value -> value != null)
                                        .toList())),
                list("list_length")
                        .gives(INTEGER)
                        .help("The number of values.")
                        .example("list_length('[\"bath\",\"view\"]')", "2")
                        .is((a, b, c) -> (long) values((String) a).size()));
    }

    private static @Nullable String item(List<@Nullable String> values, long number) {
        long index = number > 0 ? number - 1 : values.size() + number;
        return number == 0 || index < 0 || index >= values.size() ? null : values.get((int) index);
    }

    private static List<@Nullable String> values(String text) {
        List<@Nullable String> values = new ArrayList<>();
        try (JsonParser json = JSON.createParser(ObjectReadContext.empty(), text)) {
            if (json.nextToken() != JsonToken.START_ARRAY) {
                throw noList(text);
            }
            for (JsonToken token = json.nextToken(); token != JsonToken.END_ARRAY; token = json.nextToken()) {
                if (token == null || !token.isScalarValue()) {
                    throw noList(text);
                }
                values.add(token == JsonToken.VALUE_NULL ? null : json.getString());
            }
            if (json.nextToken() != null) {
                throw noList(text);
            }
            return values;
        } catch (JacksonException e) {
            throw noList(text);
        }
    }

    private static ValueProblem noList(String text) {
        return ValueProblem.malformed(text, "a JSON list of plain values");
    }
}
