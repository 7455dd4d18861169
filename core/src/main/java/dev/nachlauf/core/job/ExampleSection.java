package dev.nachlauf.core.job;

import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.job.JobDefinition.Example;
import dev.nachlauf.core.job.JobDefinition.Expected;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** One entry of {@code examples}. */
final class ExampleSection {
    private final Words words;

    ExampleSection(Words words) {
        this.words = words;
    }

    Optional<Example> example(Section section, int number) {
        String name = section.text("name").orElse("example " + number);
        Map<String, String> given =
                section.requiredSection("given").map(ExampleSection::values).orElse(Map.of());
        Map<String, String> parameters =
                section.section("parameters").map(ExampleSection::values).orElse(Map.of());
        Map<String, Map<String, String>> lookups =
                section.section("lookups").map(ExampleSection::tables).orElse(Map.of());
        Map<String, Map<String, String>> crosswalks =
                section.section("crosswalks").map(ExampleSection::tables).orElse(Map.of());
        Optional<Expected> expected = expected(section);
        section.done();
        if (expected.isEmpty()) {
            words.add(
                    section.place(),
                    ProblemCode.KEY_MISSING,
                    "The example doesn't say what becomes of its row.",
                    "Add becomes: with fields of the target, rejected: with a code, or skipped: true.");
        }
        return expected.map(one -> new Example(name, section.place(), given, parameters, lookups, crosswalks, one));
    }

    private static Optional<Expected> expected(Section section) {
        String write = section.text("write").orElse("");
        if (section.has("becomes")) {
            Map<String, @Nullable String> fields = new LinkedHashMap<>();
            section.section("becomes").ifPresent(becomes -> {
                for (String field : becomes.keys()) {
                    fields.put(
                            field,
                            becomes.isEmpty(field) ? null : becomes.text(field).orElse(""));
                }
                becomes.done();
            });
            return Optional.of(new Expected.Becomes(write, fields));
        }
        if (section.has("rejected")) {
            return section.text("rejected").map(Expected.RejectedWith::new);
        }
        return Words.flag(section, "skipped") ? Optional.of(new Expected.Skipped()) : Optional.empty();
    }

    private static Map<String, String> values(Section section) {
        Map<String, String> values = new LinkedHashMap<>();
        for (String key : section.keys()) {
            if (!section.isEmpty(key)) {
                section.text(key).ifPresent(text -> values.put(key, text));
            }
        }
        section.done();
        return values;
    }

    private static Map<String, Map<String, String>> tables(Section section) {
        Map<String, Map<String, String>> tables = new LinkedHashMap<>();
        for (String key : section.keys()) {
            section.section(key).ifPresent(table -> tables.put(key, values(table)));
        }
        section.done();
        return tables;
    }
}
