package dev.nachlauf.core.formula;

import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.Span;
import java.util.List;

/** Collects the problems of one formula at their places. */
record Findings(FormulaSource source, List<Problem> problems) {

    void add(Span span, ProblemCode code, String sentence, String remedy) {
        problems.add(Problem.at(place(span), code, sentence, remedy));
    }

    /** Syntax that is wrong in more places than this is not read to its end: nobody would mend so many one by one. */
    static final int MOST_FAULTS = 20;

    /** Says what is wrong with the syntax at a place; reading goes on behind it. */
    Fault fault(Span span, String sentence, String remedy) {
        if (problems.size() >= MOST_FAULTS) {
            throw new Stop();
        }
        add(span, ProblemCode.FORMULA_SYNTAX, sentence, remedy);
        return new Fault();
    }

    /** Says that a bound is reached; nothing behind it is read. */
    Stop stop(Span span, String sentence, String remedy) {
        add(span, ProblemCode.FORMULA_SYNTAX, sentence, remedy);
        return new Stop();
    }

    private Place place(Span span) {
        return source.place(span);
    }

    /** Ends the part of a formula that can't be understood; its problem is already collected. */
    static final class Fault extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Fault() {
            super(null, null, false, false);
        }
    }

    /** Ends the reading of a formula; its problem is already collected. */
    static final class Stop extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Stop() {
            super(null, null, false, false);
        }
    }
}
