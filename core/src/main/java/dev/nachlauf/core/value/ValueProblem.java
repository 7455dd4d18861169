package dev.nachlauf.core.value;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import org.jspecify.annotations.Nullable;

/**
 * A value that can't be read or computed. It is thrown in the row path, so it carries no stack trace: the sentence and
 * the field that the catcher adds say all.
 */
public final class ValueProblem extends RuntimeException {
    private static final long serialVersionUID = 1L;
    private final ProblemCode code;
    private final String remedy;
    private final String subject;
    private final @Nullable String value;

    public ValueProblem(ProblemCode code, String sentence) {
        this(code, null, sentence, "", "");
    }

    /**
     * A problem that knows its remedy, and what exactly it is about, for machines.
     *
     * @param value the value at fault, which the sentence names too; null where it isn't one
     */
    public ValueProblem(ProblemCode code, @Nullable String value, String sentence, String remedy, String subject) {
        super(sentence, null, false, false);
        this.code = code;
        this.value = value;
        this.remedy = remedy;
        this.subject = subject;
    }

    /** The code of the finding that this becomes. */
    public ProblemCode code() {
        return code;
    }

    /** What was found and what was expected. */
    public String sentence() {
        return String.valueOf(getMessage());
    }

    /** The finding, where a field of a row is being computed. */
    public Problem inField(String field) {
        Problem found = value == null
                ? Problem.inField(code, field, sentence(), remedy)
                : Problem.inField(code, field, Values.shortened(value), sentence(), remedy);
        return found.about(subject);
    }

    /** A text that is not what was expected; {@code expected} with its article. */
    public static ValueProblem malformed(String text, String expected) {
        return new ValueProblem(
                ProblemCode.VALUE_MALFORMED, text, "'" + Values.shortened(text) + "' is not " + expected + ".", "", "");
    }
}
