package dev.nachlauf.service.store;

import dev.nachlauf.api.ProblemView;
import org.jspecify.annotations.Nullable;

/** The names under which a finding is kept. */
record StoredProblem(
        String code,
        boolean warning,
        String sentence,
        String remedy,
        @Nullable Integer line,
        @Nullable Integer column,
        @Nullable String field,
        @Nullable String value,
        @Nullable String at,
        @Nullable String subject,
        String rendered) {
    static StoredProblem of(ProblemView view) {
        return new StoredProblem(
                view.code(),
                view.warning(),
                view.sentence(),
                view.remedy(),
                view.line(),
                view.column(),
                view.field(),
                view.value(),
                view.at(),
                view.subject(),
                view.rendered());
    }

    ProblemView view() {
        return new ProblemView(code, warning, sentence, remedy, line, column, field, value, at, subject, rendered);
    }
}
