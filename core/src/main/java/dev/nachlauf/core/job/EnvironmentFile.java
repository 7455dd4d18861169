package dev.nachlauf.core.job;

import dev.nachlauf.core.document.DocumentKind;
import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.document.SettingValue;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.SourceText;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/** Environment file to definition. */
public final class EnvironmentFile {
    private static final Pattern NAME = Pattern.compile("[a-z0-9][a-z0-9-]{0,31}");
    private static final Pattern VALUE = Pattern.compile("[A-Za-z][A-Za-z0-9_-]{0,63}");

    private EnvironmentFile() {}

    /** The definition; empty when there were problems, all of which are added to {@code problems}. */
    public static Optional<EnvironmentDefinition> read(SourceText source, List<Problem> problems) {
        return DocumentKind.ENVIRONMENT.read(source, problems, (root, found) -> definition(root));
    }

    private static EnvironmentDefinition definition(Section root) {
        String name = JobFile.name(root, "environment", NAME, "small letters, digits and hyphens");
        String title = root.text("title").orElse(name);
        boolean live = Words.flag(root, "live");
        Map<String, String> values = new LinkedHashMap<>();
        root.section("values").ifPresent(section -> {
            for (String key : section.keys()) {
                if (!VALUE.matcher(key).matches()) {
                    section.problem(
                            key,
                            ProblemCode.NAME_MALFORMED,
                            "'" + key + "' is no name of a value.",
                            "Begin with a letter; use letters, digits, - and _.");
                }
                SettingValue.read(section, key).ifPresent(value -> values.put(key, value));
            }
            section.done();
        });
        root.done();
        return new EnvironmentDefinition(name, title, live, values);
    }
}
