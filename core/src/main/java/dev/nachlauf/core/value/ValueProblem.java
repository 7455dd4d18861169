package dev.nachlauf.core.value;

import dev.nachlauf.core.problem.ProblemCode;

/**
 * A value that can't be read or computed. It is thrown in the row path, so it carries no stack trace: the sentence and
 * the field that the catcher adds say all.
 */
public final class ValueProblem extends RuntimeException {
    private static final long serialVersionUID = 1L;
    private final ProblemCode code;

    public ValueProblem(ProblemCode code, String sentence) {
        super(sentence, null, false, false);
        this.code = code;
    }

    /** The code of the finding that this becomes. */
    public ProblemCode code() {
        return code;
    }

    /** What was found and what was expected. */
    public String sentence() {
        return String.valueOf(getMessage());
    }

    static ValueProblem malformed(String text, String expected) {
        return new ValueProblem(
                ProblemCode.VALUE_MALFORMED, "'" + Values.shortened(text) + "' is not " + expected + ".");
    }
}
