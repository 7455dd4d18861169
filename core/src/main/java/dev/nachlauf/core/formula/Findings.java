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

    /** The parser can't guess what was meant behind the first broken place: it stops there. */
    Stop stop(Span span, String sentence, String remedy) {
        add(span, ProblemCode.FORMULA_SYNTAX, sentence, remedy);
        return new Stop();
    }

    private Place place(Span span) {
        return source.place(span);
    }

    /** Ends the parse; its problem is already collected. */
    static final class Stop extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Stop() {
            super(null, null, false, false);
        }
    }
}
