package dev.nachlauf.core.problem;

import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A finding about a row as a list of values, for what is kept: code, field, value, cell, sentence, remedy, subject. */
public final class ProblemRecord {
    private static final int WIDTH = 7;
    /** Findings of the first layout have no subject. */
    private static final int FIRST_WIDTH = 6;

    private ProblemRecord() {}

    /** The values. */
    public static List<@Nullable Object> values(Problem problem) {
        Place.InField field = problem.place() instanceof Place.InField place ? place : null;
        return Arrays.asList(
                problem.code().id(),
                field == null ? null : field.field(),
                field == null ? null : field.value(),
                field == null ? null : field.at(),
                problem.sentence(),
                problem.remedy(),
                problem.subject());
    }

    /** The finding in these values. */
    public static Problem of(List<?> values) {
        if (values.size() != WIDTH && values.size() != FIRST_WIDTH) {
            throw new IllegalArgumentException("a kept finding has " + WIDTH + " values");
        }
        String field = text(values.get(1));
        Place place =
                field == null ? Place.NOWHERE : new Place.InField(field, text(values.get(2)), text(values.get(3)));
        Problem problem = Problem.at(
                place,
                ProblemCode.of(String.valueOf(values.getFirst())),
                String.valueOf(values.get(4)),
                String.valueOf(values.get(5)));
        String subject = values.size() == WIDTH ? text(values.get(6)) : null;
        return subject == null || subject.isEmpty() ? problem : problem.about(subject);
    }

    private static @Nullable String text(@Nullable Object value) {
        return value == null ? null : value.toString();
    }
}
