package dev.nachlauf.connectors.format.json;

import tools.jackson.core.JacksonException;
import tools.jackson.core.exc.StreamConstraintsException;

/** The library's finding in our words: its own text holds pieces of the file. */
final class Malformed {
    private Malformed() {}

    static String reason(JacksonException e) {
        if (e instanceof StreamConstraintsException) {
            return "it is nested deeper than " + Json.DEEPEST + " levels, or a text or number in it is too long";
        }
        String message = String.valueOf(e.getOriginalMessage());
        if (message.contains("end-of-input") || message.contains("end of input")) {
            return "it ends too early";
        }
        return "a bracket, a quote, a comma or a value is wrong here";
    }
}
