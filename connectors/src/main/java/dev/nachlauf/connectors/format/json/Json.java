package dev.nachlauf.connectors.format.json;

import java.math.BigDecimal;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.json.JsonFactory;

/** The library's parser within bounds, and values as rows hold them. */
final class Json {
    /** How deep things may be nested. */
    static final int DEEPEST = 200;

    private static final int LONGEST_TEXT = 4_000_000;
    private static final int LONGEST_NUMBER = 1_000;
    private static final int LONGEST_NAME = 10_000;
    private static final int LARGEST_SCALE = 1_000;

    static final JsonFactory FACTORY = JsonFactory.builder()
            .streamReadConstraints(StreamReadConstraints.builder()
                    .maxNestingDepth(DEEPEST)
                    .maxStringLength(LONGEST_TEXT)
                    .maxNumberLength(LONGEST_NUMBER)
                    .maxNameLength(LONGEST_NAME)
                    .build())
            .build();

    private Json() {}

    /** The scalar at hand: empty text counts as it does in a cell, a number that no field can hold stays text. */
    static @Nullable Object scalar(JsonParser parser) {
        JsonToken token = parser.currentToken();
        if (token == JsonToken.VALUE_STRING) {
            String text = parser.getString();
            return text.isEmpty() ? null : text;
        }
        if (token == JsonToken.VALUE_NUMBER_INT || token == JsonToken.VALUE_NUMBER_FLOAT) {
            return number(parser);
        }
        if (token == JsonToken.VALUE_NULL) {
            return null;
        }
        return token == JsonToken.VALUE_TRUE;
    }

    private static Object number(JsonParser parser) {
        String text = parser.getString();
        if (parser.currentToken() == JsonToken.VALUE_NUMBER_INT && text.length() < 19) {
            return Long.parseLong(text);
        }
        BigDecimal number = new BigDecimal(text);
        return Math.abs((long) number.scale()) > LARGEST_SCALE ? text : number;
    }
}
