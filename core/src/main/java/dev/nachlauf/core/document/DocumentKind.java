package dev.nachlauf.core.document;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.SourceText;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BiFunction;

/** The kinds of documents that people write, told apart by the key that holds a document's name. */
public enum DocumentKind {
    JOB,
    CONNECTION,
    ENVIRONMENT,
    CROSSWALK,
    PIECES;

    private String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /**
     * Reads a document of this kind; empty when there were problems, all of which are added to {@code problems}.
     *
     * @param definition what a document with such a head says; adds what is wrong
     */
    public <T> Optional<T> read(
            SourceText source, List<Problem> problems, BiFunction<Section, List<Problem>, T> definition) {
        List<Problem> found = new ArrayList<>();
        Optional<T> read = Document.parse(source, found).filter(this::heads).map(root -> definition.apply(root, found));
        problems.addAll(found);
        return found.isEmpty() ? read : Optional.empty();
    }

    /**
     * Whether a document may be read as one of this kind, in a version that is known; what is wrong is said. Of a document
     * of another kind nothing else is worth telling.
     */
    public boolean heads(Section root) {
        List<String> keys = root.keys();
        Optional<DocumentKind> other = keys.contains(word())
                ? Optional.empty()
                : Arrays.stream(values()).filter(kind -> kind.isTold(keys)).findFirst();
        if (other.isPresent()) {
            String found = other.get().word();
            root.problem(
                    found,
                    ProblemCode.KEY_MISSING,
                    "This is " + other.get().called() + ", not " + called() + ".",
                    "Save it with: nachlauf " + found + " save FILE");
            return false;
        }
        root.require("nachlauf");
        root.text("nachlauf")
                .filter(version -> !version.equals("1"))
                .ifPresent(version -> root.problem(
                        "nachlauf",
                        ProblemCode.FORMAT_UNKNOWN,
                        "Version " + version + " of this format is not known.",
                        "Write nachlauf: 1."));
        return true;
    }

    /** A job has a key {@code pieces} too. */
    private boolean isTold(List<String> keys) {
        return keys.contains(word()) && !(this == PIECES && keys.contains("read"));
    }

    private String called() {
        return switch (this) {
            case PIECES -> "a document of pieces";
            case ENVIRONMENT -> "an environment";
            default -> "a " + word();
        };
    }
}
