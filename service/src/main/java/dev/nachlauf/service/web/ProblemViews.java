package dev.nachlauf.service.web;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.problem.ProblemText;
import dev.nachlauf.core.text.Position;
import java.util.ArrayList;
import java.util.List;

/** Findings as they leave the service. */
public final class ProblemViews {
    /** Nobody reads more at once, and each costs a look at the text that it stands in. */
    static final int MOST = 200;

    private ProblemViews() {}

    /** One finding. */
    public static ProblemView of(Problem problem) {
        Position position = problem.place() instanceof Place.InText text ? text.position() : null;
        Integer line = position != null ? (Integer) position.line() : null;
        if (problem.place() instanceof Place.InFile file) {
            line = (int) file.line();
        }
        String field = null;
        String value = null;
        String at = null;
        if (problem.place() instanceof Place.InField place) {
            field = place.field();
            value = place.value();
            at = place.at();
        } else if (problem.place() instanceof Place.InSetting setting) {
            field = setting.name();
        }
        return new ProblemView(
                problem.code().id(),
                problem.code().isWarning(),
                problem.sentence(),
                problem.remedy(),
                line,
                position == null ? null : position.column(),
                field,
                value,
                at,
                problem.subject().isEmpty() ? null : problem.subject(),
                ProblemText.render(problem));
    }

    /** Several findings; of very many the first, and how many more there are. */
    public static List<ProblemView> of(List<Problem> problems) {
        if (problems.size() <= MOST) {
            return problems.stream().map(ProblemViews::of).toList();
        }
        List<ProblemView> views = new ArrayList<>(of(problems.subList(0, MOST)));
        views.add(of(Problem.of(
                ProblemCode.MORE_PROBLEMS,
                problems.size() - MOST + " more problems were found.",
                "Mend those that are told first.")));
        return views;
    }
}
