package dev.nachlauf.core.job;

import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.job.JobDefinition.Format;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.template.Escape;
import dev.nachlauf.core.template.TextTemplate;
import dev.nachlauf.core.text.NearestNames;
import java.nio.charset.Charset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;

/** What a write says that issues a file. */
final class IssueSection {
    /** Names that stand in the name of a file beside parameters: the number of the run, and that of the part. */
    static final Set<String> NAMES = Set.of("run", "part");

    private static final int MOST_ROWS = 100_000_000;

    private final Words words;

    IssueSection(Words words) {
        this.words = words;
    }

    /** @param adds whether it adds to a file that is there */
    Issue issue(Section section, boolean adds) {
        if (adds) {
            for (String key : List.of("text", "parts-of", "if-there")) {
                if (section.has(key)) {
                    section.problem(
                            key,
                            ProblemCode.VALUE_WRONG_KIND,
                            key + " has no meaning where rows are added to a file that is there.",
                            "It goes with action: issue, which writes a file of its own.");
                }
            }
        }
        Optional<Issue.Text> text = section.section("text").map(this::text);
        if (text.isPresent() && section.has("format")) {
            section.problem(
                    "format",
                    ProblemCode.VALUE_WRONG_KIND,
                    "format has no meaning beside text.",
                    "The text is written as it says itself.");
        }
        Format format = new ReadSection(words).format(section);
        Optional<Integer> parts = section.integer("parts-of", 1, MOST_ROWS);
        boolean replaces = Words.oneOf(section, "if-there", "refuse", "replace").equals("replace");
        return new Issue(
                adds, format, text, parts.isPresent() ? OptionalInt.of(parts.get()) : OptionalInt.empty(), replaces);
    }

    private Issue.Text text(Section section) {
        TextTemplate each = section.has("recorded") ? grown(section) : template(section, "each", true);
        Escape escape = escape(section);
        String encoding = section.text("encoding").orElse("UTF-8");
        if (!isEncoding(encoding)) {
            section.problem(
                    "encoding",
                    ProblemCode.VALUE_WRONG_KIND,
                    "There is no encoding " + encoding + ".",
                    "Common ones are UTF-8, windows-1252 and ISO-8859-1.");
        }
        String lineEnd = Words.oneOf(section, "line-ends", "lf", "crlf").equals("crlf") ? "\r\n" : "\n";
        Issue.Text text = new Issue.Text(
                template(section, "head", false), each, template(section, "foot", false), escape, encoding, lineEnd);
        section.done();
        return text;
    }

    private static boolean isEncoding(String name) {
        try {
            return Charset.isSupported(name);
        } catch (IllegalArgumentException e) {
            return false;
        }
    }

    private static TextTemplate template(Section section, String key, boolean required) {
        Optional<String> text = required ? section.requiredText(key) : section.text(key);
        return TextTemplate.of(text.orElse(""));
    }

    /** How values are spelled has to be said: a wrong guess lets a value break the text. */
    private static Escape escape(Section section) {
        String word = section.requiredText("escape").orElse("none");
        Optional<Escape> escape = Escape.of(word);
        if (escape.isEmpty()) {
            section.problem(
                    "escape",
                    ProblemCode.VALUE_WRONG_KIND,
                    "escape is one of " + String.join(", ", Escape.words()) + ", but " + word + " was found.",
                    NearestNames.suggestion(word, Escape.words(), ""));
        }
        return escape.orElse(Escape.NONE);
    }

    /** A template of a text that was recorded, in which the values are told. */
    private static TextTemplate grown(Section section) {
        String recorded = section.requiredText("recorded").orElse("");
        Map<String, String> values = new LinkedHashMap<>();
        section.requiredSection("values").ifPresent(names -> {
            for (String name : names.keys()) {
                names.text(name).ifPresent(value -> values.put(name, value));
            }
            names.done();
        });
        TextTemplate grown = TextTemplate.grown(recorded, values);
        values.forEach((name, value) -> {
            if (!grown.names().contains(name)) {
                section.problem(
                        "values",
                        ProblemCode.OUTPUT_UNFIT,
                        "The recorded text doesn't hold '" + value
                                + "' as a word of its own, or another name stands for" + " it already.",
                        "Record a text in which each value differs from all others.");
            }
        });
        return grown;
    }
}
