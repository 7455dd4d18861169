package dev.nachlauf.service.source;

import dev.nachlauf.api.SourceRequest;
import dev.nachlauf.api.SourceView.OptionView;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.source.Guess;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Writes the part of a job file that reads a source as it was looked at. Everything that YAML might misread is quoted. */
final class ReadText {
    private static final Pattern PLAIN = Pattern.compile("[A-Za-z_][A-Za-z0-9_./-]*");
    private static final List<String> WORDS_OF_YAML = List.of("true", "false", "null", "yes", "no", "on", "off");

    private ReadText() {}

    static String of(
            SourceRequest request,
            RequestedSource.Found found,
            List<OptionView> options,
            List<SourceField> fields,
            List<Guess> guesses) {
        StringBuilder text = new StringBuilder("read:\n");
        text.append("  connection: ")
                .append(request.connection() == null ? "NAME" : quoted(request.connection()))
                .append('\n');
        if (request.records() != null) {
            text.append("  records: ").append(quoted(request.records())).append('\n');
        } else if (request.query() != null) {
            text.append("  query: ").append(quoted(request.query())).append('\n');
        } else {
            text.append("  file: ").append(quoted(found.name())).append('\n');
            text.append("  format: { as: ").append(found.parts().getFirst().format());
            for (OptionView option : options) {
                if (option.settable()
                        && !option.value().isEmpty()
                        && !option.evidence().equals(Detected.USUAL)) {
                    text.append(", ").append(option.option()).append(": ").append(quoted(option.value()));
                }
            }
            text.append(" }\n");
        }
        List<String> readings = new ArrayList<>();
        for (int i = 0; i < fields.size(); i++) {
            Reading reading = guesses.get(i).reading();
            if (reading.kind() != Kind.TEXT) {
                readings.add("    " + quoted(fields.get(i).name()) + ": " + reading(reading));
            }
        }
        if (!readings.isEmpty()) {
            text.append("  fields:\n").append(String.join("\n", readings)).append('\n');
        }
        return text.toString();
    }

    private static String reading(Reading reading) {
        String pattern = reading.pattern() == null
                ? ""
                : reading.kind() == Kind.BOOLEAN
                        ? truths(reading.pattern())
                        : ", pattern: " + quoted(reading.pattern());
        String locale = reading.locale() == null ? "" : ", locale: " + reading.locale();
        return "{ is: " + reading.kind().word() + pattern + locale + " }";
    }

    private static String truths(String pattern) {
        String[] lists = pattern.split("/", -1);
        return ", true: " + words(lists[0]) + ", false: " + words(lists[1]);
    }

    private static String words(String list) {
        return Stream.of(list.split(",", -1)).map(ReadText::quoted).collect(Collectors.joining(", ", "[", "]"));
    }

    private static String quoted(String word) {
        boolean plain =
                PLAIN.matcher(word).matches() && !WORDS_OF_YAML.contains(word.toLowerCase(java.util.Locale.ROOT));
        return plain || word.matches("[1-9]\\d{0,8}")
                ? word
                : '"'
                        + word.replace("\\", "\\\\")
                                .replace("\"", "\\\"")
                                .replace("\t", "\\t")
                                .replace("\n", "\\n")
                        + '"';
    }
}
