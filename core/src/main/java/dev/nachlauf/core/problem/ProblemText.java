package dev.nachlauf.core.problem;

import dev.nachlauf.core.text.Position;

/** The one renderer of findings for people: place, sentence, the line with a caret, remedy. */
public final class ProblemText {
    private static final int WIDEST_LINE = 160;

    private ProblemText() {}

    /** The finding as text of one to four lines, without a line end. */
    public static String render(Problem problem) {
        StringBuilder out = new StringBuilder();
        switch (problem.place()) {
            case Place.InText text -> {
                Position position = text.position();
                out.append(text.source().name()).append(", ").append(position).append(": ");
                sentence(out, problem);
                caret(out, text, position);
            }
            case Place.InField field -> {
                out.append(field.field());
                if (field.at() != null) {
                    out.append(" (").append(field.at()).append(')');
                }
                out.append(": ");
                sentence(out, problem);
            }
            case Place.InFile file -> {
                out.append(file.file()).append(", line ").append(file.line()).append(": ");
                sentence(out, problem);
            }
            case Place.InSetting setting -> {
                out.append(setting.name()).append(": ");
                sentence(out, problem);
            }
            case Place.Nowhere ignored -> sentence(out, problem);
        }
        if (!problem.remedy().isEmpty()) {
            out.append("\n  ").append(problem.remedy());
        }
        return out.toString();
    }

    private static void sentence(StringBuilder out, Problem problem) {
        out.append(problem.sentence()).append(" [").append(problem.code().id()).append(']');
    }

    private static void caret(StringBuilder out, Place.InText text, Position position) {
        String line = text.source().lineAt(text.span().start()).replace('\t', ' ');
        if (line.isBlank() || line.length() > WIDEST_LINE) {
            return;
        }
        int width =
                text.source().slice(text.span()).lines().findFirst().orElse("").length();
        int room = line.codePointCount(0, line.length()) - position.column() + 1;
        out.append("\n  ").append(line).append("\n  ");
        out.repeat(' ', position.column() - 1).repeat('^', Math.max(1, Math.min(width, room)));
    }
}
