package dev.nachlauf.core.document;

import dev.nachlauf.core.problem.ProblemCode;
import java.util.Optional;

/** A setting as documents write it: a word, or a map that says where the service finds a secret. */
public final class SettingValue {
    private static final String BY_VARIABLE = "env:";
    private static final String BY_FILE = "file:";

    private SettingValue() {}

    /** The value of a key, a secret as its reference ({@code env:NAME} or {@code file:PATH}); empty where it is none. */
    public static Optional<String> read(Section section, String key) {
        if (!section.isSection(key)) {
            return section.text(key);
        }
        return section.section(key).flatMap(reference -> {
            Optional<String> env = reference.text("env").map(name -> BY_VARIABLE + name);
            Optional<String> file = reference.text("file").map(path -> BY_FILE + path);
            reference.done();
            if (env.isPresent() == file.isPresent()) {
                section.problem(
                        key,
                        ProblemCode.VALUE_WRONG_KIND,
                        "A secret is named by env or by file, one of them.",
                        "Write { env: NAME } or { file: PATH }.");
            }
            return env.or(() -> file);
        });
    }

    /** Whether a value is the reference of a secret. */
    public static boolean isReference(String value) {
        return value.startsWith(BY_VARIABLE) || value.startsWith(BY_FILE);
    }
}
