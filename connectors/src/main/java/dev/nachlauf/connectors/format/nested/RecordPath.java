package dev.nachlauf.connectors.format.nested;

import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.Setting;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/** Which of the nested things is a record: their names from the outermost to the record's own. */
public record RecordPath(List<String> names) {
    /** The option. */
    public static final Setting RECORD =
            Setting.optional("record", "what a row is: the names that lead to it, such as regions.trails");

    private static final int DEEPEST = 50;

    public RecordPath {
        names = List.copyOf(names);
    }

    /** The path that a job states. */
    public static Optional<RecordPath> stated(FormatOptions options) {
        return options.text(RECORD.name()).map(text -> {
            List<String> names = List.of(text.split("\\.", -1));
            if (names.size() > DEEPEST || names.stream().anyMatch(String::isBlank)) {
                throw FormatOptions.malformed(
                        RECORD.name(), "record is names with points between them, but '" + text + "' was found.");
            }
            return new RecordPath(names);
        });
    }

    /** The path that a job states, or else what a search finds. */
    public static Detected detected(FormatOptions options, Supplier<Detected> search) {
        return stated(options)
                .map(stated -> Detected.stated(RECORD.name(), stated.text()))
                .orElseGet(search);
    }

    /** As it is written in a job. */
    public String text() {
        return String.join(".", names);
    }

    public int depth() {
        return names.size();
    }
}
