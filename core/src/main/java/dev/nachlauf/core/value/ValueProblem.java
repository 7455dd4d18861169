package dev.nachlauf.core.value;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;

/**
 * A value that can't be read or computed. It is thrown in the row path, so it carries no stack trace: the sentence and
 * the field that the catcher adds say all.
 */
public final class ValueProblem extends RuntimeException {
    private static final long serialVersionUID = 1L;
    private final ProblemCode code;
    private final String remedy;
    private final String subject;

    public ValueProblem(ProblemCode code, String sentence) {
        this(code, sentence, "", "");
    }

    /** A problem that knows its remedy, and what exactly it is about, for machines. */
    public ValueProblem(ProblemCode code, String sentence, String remedy, String subject) {
        super(sentence, null, false, false);
        this.code = code;
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
        return Problem.inField(code, field, sentence(), remedy).about(subject);
    }

    /** A text that is not what was expected; {@code expected} with its article. */
    public static ValueProblem malformed(String text, String expected) {
        return new ValueProblem(
                ProblemCode.VALUE_MALFORMED, "'" + Values.shortened(text) + "' is not " + expected + ".");
    }
}
