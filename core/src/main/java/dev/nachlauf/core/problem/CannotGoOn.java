package dev.nachlauf.core.problem;

import java.util.List;

/** Work has to end here; the findings say why. */
public final class CannotGoOn extends RuntimeException {
    private static final long serialVersionUID = 1L;
    private final transient List<Problem> problems;

    public CannotGoOn(Problem problem) {
        this(List.of(problem));
    }

    public CannotGoOn(List<Problem> problems) {
        super(problems.getFirst().code().id() + ": " + problems.getFirst().sentence());
        this.problems = List.copyOf(problems);
    }

    public CannotGoOn(Problem problem, Throwable cause) {
        this(problem);
        initCause(cause);
    }

    /**
     * Does nothing where warnings are all there is.
     *
     * @throws CannotGoOn with all of the problems, where an error is among them
     */
    public static void overErrorsAmong(List<Problem> problems) {
        if (problems.stream().anyMatch(problem -> !problem.code().isWarning())) {
            throw new CannotGoOn(problems);
        }
    }

    /** What is wrong; at least one finding. */
    public List<Problem> problems() {
        return problems;
    }

    /** Whether trying again later can help: every error is one that passes. Warnings beside it don't count. */
    public boolean isTemporary() {
        List<ProblemCode> errors = problems.stream()
                .map(Problem::code)
                .filter(code -> !code.isWarning())
                .toList();
        return !errors.isEmpty() && errors.stream().allMatch(ProblemCode::passes);
    }
}
