package dev.nachlauf.acceptance;

import dev.nachlauf.core.function.Form;
import dev.nachlauf.core.function.Function;
import dev.nachlauf.core.function.Function.Topic;
import dev.nachlauf.core.function.FunctionTable;
import java.util.List;

/** The part of docs/formulas.md that is written from the function table. */
final class FunctionReference {
    static final String START = "<!-- written from the function table: tools/docs -->";
    static final String END = "<!-- end of what is written from the function table -->";

    private FunctionReference() {}

    static String markdown() {
        StringBuilder out = new StringBuilder(START).append("\n\n");
        out.append("### Forms with rules of their own\n\n");
        out.append("| form | | null | rejects the row where | example | gives |\n|---|---|---|---|---|---|\n");
        for (Form form : Form.ALL) {
            out.append("| ")
                    .append(code(form.pattern()))
                    .append(" | ")
                    .append(form.help())
                    .append(" | ")
                    .append(form.nulls())
                    .append(" | ")
                    .append(form.errors())
                    .append(" | ")
                    .append(code(form.example()))
                    .append(" | ")
                    .append(code(form.exampleResult()))
                    .append(" |\n");
        }
        for (Topic topic : Topic.values()) {
            out.append("\n### ").append(topic.title()).append("\n\n");
            out.append("| function | takes | gives | | rejects the row where | example | gives |\n");
            out.append("|---|---|---|---|---|---|---|\n");
            for (Function function : of(topic)) {
                out.append("| ")
                        .append(code(function.signature()))
                        .append(" | ")
                        .append(function.kinds())
                        .append(" | ")
                        .append(function.result().word())
                        .append(" | ")
                        .append(function.help())
                        .append(" | ")
                        .append(function.errors())
                        .append(" | ")
                        .append(code(function.example()))
                        .append(" | ")
                        .append(code(function.exampleResult()))
                        .append(" |\n");
            }
        }
        return out.append("\n").append(END).toString();
    }

    private static List<Function> of(Topic topic) {
        return FunctionTable.all().stream()
                .filter(function -> function.topic() == topic)
                .toList();
    }

    private static String code(String text) {
        return text.isEmpty() ? "" : "`" + text.replace("|", "\\|") + "`";
    }

    /** A text with this part renewed. */
    static String renew(String document) {
        int start = document.indexOf(START);
        int end = document.indexOf(END) + END.length();
        return document.substring(0, start) + markdown() + document.substring(end);
    }
}
