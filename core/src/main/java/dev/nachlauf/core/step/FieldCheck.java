package dev.nachlauf.core.step;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.TextCell;
import dev.nachlauf.core.system.Characters;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What a target demands of a value, checked before it is sent: required, length, range, scale, allowed values. */
final class FieldCheck {
    private FieldCheck() {}

    static void check(FieldDescription field, @Nullable Object value, List<Problem> problems) {
        switch (value) {
            case null -> {
                if (!field.traits().mayBeCleared()) {
                    problems.add(Problem.inField(
                            ProblemCode.REQUIRED_EMPTY, field.name(), "The field is required, but empty.", ""));
                }
            }
            case String text -> text(field, text, problems);
            case TextCell text -> {
                if (!fits(field, text)) {
                    text(field, text.toString(), problems);
                }
            }
            case Long number -> {
                integer(field, number, problems);
                written(field, number, problems);
            }
            case BigDecimal number -> {
                decimal(field, number, problems);
                written(field, number, problems);
            }
            default -> written(field, value, problems);
        }
    }

    /** Whether its bytes tell that a text is as it has to be; where they don't, it has to be looked at. */
    private static boolean fits(FieldDescription field, TextCell text) {
        return text.bytes() <= field.length().orElse(Integer.MAX_VALUE)
                && field.characters().equals(Characters.ANY)
                && field.allowed().isEmpty()
                && !text.hasNul();
    }

    private static void text(FieldDescription field, String text, List<Problem> problems) {
        if (field.length().isPresent() && text.length() > field.length().getAsInt()) {
            int length = text.codePointCount(0, text.length());
            if (length > field.length().getAsInt()) {
                add(
                        problems,
                        ProblemCode.TOO_LONG,
                        field,
                        text,
                        "The text has " + length + " characters, but only "
                                + field.length().getAsInt() + " fit.");
            }
        }
        if (text.indexOf('\0') >= 0) {
            add(
                    problems,
                    ProblemCode.CHARACTER_NOT_ALLOWED,
                    field,
                    text.replace('\0', '?'),
                    "The text holds the character NUL, which can't be stored.");
        }
        field.characters()
                .refusal(text)
                .ifPresent(why -> add(problems, ProblemCode.CHARACTER_NOT_ALLOWED, field, text, why));
        if (!field.allowed().isEmpty() && !field.allowed().contains(text)) {
            add(
                    problems,
                    ProblemCode.VALUE_NOT_ALLOWED,
                    field,
                    text,
                    "The value is none of: " + String.join(", ", field.allowed()) + ".");
        }
    }

    /** A number, date or truth that is written as text may be too long for its place. */
    private static void written(FieldDescription field, Object value, List<Problem> problems) {
        if (field.length().isEmpty()) {
            return;
        }
        String text = String.valueOf(Values.text(value));
        if (text.length() > field.length().getAsInt()) {
            add(
                    problems,
                    ProblemCode.TOO_LONG,
                    field,
                    text,
                    "The value has " + text.length() + " characters, but only "
                            + field.length().getAsInt() + " fit.");
        }
    }

    private static void integer(FieldDescription field, long number, List<Problem> problems) {
        int bytes = field.integerBytes().orElse(Long.BYTES);
        int unused = Long.SIZE - bytes * Byte.SIZE;
        if (number << unused >> unused != number) {
            add(
                    problems,
                    ProblemCode.OUT_OF_RANGE,
                    field,
                    number,
                    "The number doesn't fit into " + field.typeName() + ".");
        }
    }

    /** Too many decimals are refused, never rounded silently; zeros at the end don't count. */
    private static void decimal(FieldDescription field, BigDecimal number, List<Problem> problems) {
        if (field.scale().isEmpty() || field.precision().isEmpty()) {
            return;
        }
        int scale = field.scale().getAsInt();
        if (number.scale() > scale && number.stripTrailingZeros().scale() > scale) {
            add(
                    problems,
                    ProblemCode.TOO_MANY_DECIMALS,
                    field,
                    Values.text(number),
                    "The number has more than " + scale + " digits behind the point.");
        } else if (number.signum() != 0
                && number.precision() - number.scale() > field.precision().getAsInt() - scale) {
            add(
                    problems,
                    ProblemCode.OUT_OF_RANGE,
                    field,
                    Values.text(number),
                    "The number doesn't fit into " + field.typeName() + ".");
        }
    }

    private static void add(
            List<Problem> problems, ProblemCode code, FieldDescription field, @Nullable Object value, String sentence) {
        problems.add(Problem.inField(code, field.name(), Values.shortened(String.valueOf(value)), sentence, ""));
    }
}
