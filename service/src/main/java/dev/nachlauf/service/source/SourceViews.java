package dev.nachlauf.service.source;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.SourceRequest;
import dev.nachlauf.api.SourceRequest.FieldReading;
import dev.nachlauf.api.SourceView;
import dev.nachlauf.api.SourceView.OptionView;
import dev.nachlauf.api.SourceView.PartView;
import dev.nachlauf.api.SourceView.SourceFieldView;
import dev.nachlauf.api.SourceView.SourceRowView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.Guess;
import dev.nachlauf.core.source.Sample;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.web.Masked;
import dev.nachlauf.service.web.ProblemViews;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** A sample as it leaves the service. */
final class SourceViews {
    private static final int USUAL_ROWS = 20;
    private static final int MOST_ROWS = 200;

    private SourceViews() {}

    static SourceView of(SourceRequest request, RequestedSource.Found found, Sample sample, List<String> settable) {
        List<Guess> guesses = new ArrayList<>();
        for (int i = 0; i < sample.fields().size(); i++) {
            guesses.add(guess(request, sample.fields().get(i), sample.guesses().get(i)));
        }
        Masked masked = new Masked(found.sensitive(), Set.of());
        List<String> header = sample.fields().stream().map(SourceField::name).toList();
        List<OptionView> options = options(sample, settable);
        int rows = Math.clamp(Objects.requireNonNullElse(request.rows(), USUAL_ROWS), 1, MOST_ROWS);
        return new SourceView(
                found.name(),
                parts(found),
                found.format().value(),
                found.format().confidence(),
                found.format().evidence(),
                options,
                fields(sample, guesses, masked),
                sample.rows().stream()
                        .limit(rows)
                        .map(row -> row(row, sample.fields(), guesses))
                        .map(row -> shown(row, header, masked))
                        .toList(),
                sample.rows().size(),
                sample.whole(),
                sample.lacks().stream()
                        .map(lack -> lack.part() + " lacks " + String.join(", ", lack.fields()) + ".")
                        .toList(),
                ProblemViews.of(sample.failures()),
                ReadText.of(request, found, options, sample.fields(), guesses));
    }

    private static List<PartView> parts(RequestedSource.Found found) {
        return found.parts().stream()
                .map(part -> new PartView(
                        part.file().name(),
                        part.member(),
                        part.file().hash(),
                        part.file().size(),
                        part.format()))
                .toList();
    }

    private static List<OptionView> options(Sample sample, List<String> settable) {
        return sample.options().stream()
                .map(option -> new OptionView(
                        option.option(),
                        option.value(),
                        option.confidence(),
                        option.evidence(),
                        settable.contains(option.option())))
                .toList();
    }

    /** What is asked for takes the place of what was guessed. */
    private static Guess guess(SourceRequest request, SourceField field, Guess guessed) {
        List<FieldReading> readings = Objects.requireNonNullElse(request.fields(), List.of());
        for (FieldReading reading : readings) {
            if (reading.name().equals(field.name())) {
                return new Guess(reading(reading), 1, "stated", "");
            }
        }
        return guessed;
    }

    private static Reading reading(FieldReading stated) {
        Kind kind = Kind.of(stated.is())
                .orElseThrow(() -> malformed(
                        "There is no kind " + stated.is() + ".", "Kinds: " + String.join(", ", Kind.words()) + "."));
        Reading reading = new Reading(kind, stated.pattern(), stated.locale());
        try {
            reading.parser();
            return reading;
        } catch (IllegalArgumentException e) {
            throw malformed(
                    "'" + stated.pattern() + "' is no pattern for a " + kind.word() + ".",
                    "A pattern is like dd.MM.yyyy or HH:mm, for truths like ja,x/nein.");
        }
    }

    private static CannotGoOn malformed(String sentence, String remedy) {
        return new CannotGoOn(Problem.of(ProblemCode.REQUEST_MALFORMED, sentence, remedy));
    }

    /** Without the values that are kept from those who look. */
    private static SourceRowView shown(SourceRowView row, List<String> header, Masked masked) {
        return new SourceRowView(
                row.row(),
                row.place(),
                masked.cells(header, row.raw()),
                row.values().isEmpty() ? row.values() : masked.cells(header, row.values()),
                row.wrong().stream()
                        .map(problem -> masked.problem(problem, header, row.raw()))
                        .toList());
    }

    private static List<SourceFieldView> fields(Sample sample, List<Guess> guesses, Masked masked) {
        List<SourceFieldView> fields = new ArrayList<>();
        for (int i = 0; i < guesses.size(); i++) {
            SourceField field = sample.fields().get(i);
            Guess guess = guesses.get(i);
            // evidence and question show values
            boolean hidden = masked.columns().contains(field.name());
            fields.add(new SourceFieldView(
                    field.name(),
                    field.address(),
                    guess.reading().kind().word(),
                    guess.reading().pattern(),
                    guess.reading().locale(),
                    guess.confidence(),
                    hidden ? "its values are sensitive and not shown" : guess.evidence(),
                    hidden ? "" : guess.question()));
        }
        return fields;
    }

    private static SourceRowView row(SourceRow row, List<SourceField> fields, List<Guess> guesses) {
        List<@Nullable String> raw = new ArrayList<>();
        for (Object cell : row.cells()) {
            raw.add(Values.text(cell));
        }
        List<Problem> wrong = new ArrayList<>(row.problems());
        List<@Nullable String> values = new ArrayList<>();
        for (int i = 0; i < fields.size() && row.problems().isEmpty(); i++) {
            values.add(value(row, fields.get(i), row.cell(i), guesses.get(i).reading(), wrong));
        }
        List<ProblemView> problems = ProblemViews.of(wrong);
        return new SourceRowView(row.number(), row.origin().text(), raw, values, problems);
    }

    private static @Nullable String value(
            SourceRow row, SourceField field, @Nullable Object cell, Reading reading, List<Problem> wrong) {
        try {
            return Values.text(Reading.readOrEmpty(cell, reading.kind(), reading.parser()));
        } catch (ValueProblem problem) {
            wrong.add(Problem.inField(
                            problem.code(),
                            field.name(),
                            Values.shortened(String.valueOf(Values.text(cell))),
                            problem.sentence(),
                            "")
                    .withCell(row.origin().text(field)));
            return null;
        }
    }
}
