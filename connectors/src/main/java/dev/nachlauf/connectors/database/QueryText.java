package dev.nachlauf.connectors.database;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * A query with its named parameters replaced by question marks.
 *
 * @param names the parameter for each question mark
 */
public record QueryText(String sql, List<String> names) {
    private static final int LONGEST = 100_000;
    private static final Set<String> QUESTIONS = Set.of("SELECT", "WITH", "VALUES", "TABLE");

    public QueryText {
        names = List.copyOf(names);
    }

    /**
     * Finds {@code :name} outside of quotes and comments ({@code ::} is a cast, not a parameter).
     *
     * @throws CannotGoOn where there is more than one statement: a second one could leave the read-only transaction
     */
    public static QueryText parse(String text) {
        if (text.length() > LONGEST) {
            throw refused("The query is longer than " + LONGEST + " characters.");
        }
        requireQuestion(text);
        StringBuilder sql = new StringBuilder();
        List<String> names = new ArrayList<>();
        int at = 0;
        while (at < text.length()) {
            int end = endOfQuoted(text, at);
            char c = text.charAt(at);
            if (end > at) {
                sql.append(text, at, end);
                at = end;
            } else if (c == ';') {
                if (!text.substring(at + 1).isBlank()) {
                    throw refused("The query holds more than one statement.");
                }
                at = text.length();
            } else if (isParameter(text, at)) {
                int stop = at + 1;
                while (stop < text.length() && isNamePart(text.charAt(stop))) {
                    stop++;
                }
                names.add(text.substring(at + 1, stop));
                sql.append('?');
                at = stop;
            } else if (c == '?') {
                throw refused("The query holds a question mark; parameters are written as :name.");
            } else {
                sql.append(c);
                at++;
            }
        }
        return new QueryText(sql.toString(), names);
    }

    /** Statements that only ask begin with one of a few words; others might act even in a read-only transaction. */
    private static void requireQuestion(String text) {
        int at = 0;
        while (at < text.length() && (Character.isWhitespace(text.charAt(at)) || text.charAt(at) == '(')
                || text.startsWith("--", at)
                || text.startsWith("/*", at)) {
            at = Character.isWhitespace(text.charAt(at)) || text.charAt(at) == '(' ? at + 1 : endOfQuoted(text, at);
        }
        int end = at;
        while (end < text.length() && Character.isLetter(text.charAt(end))) {
            end++;
        }
        if (!QUESTIONS.contains(text.substring(at, end).toUpperCase(Locale.ROOT))) {
            throw refused("The query doesn't begin with SELECT, WITH, VALUES or TABLE.");
        }
    }

    private static CannotGoOn refused(String sentence) {
        return new CannotGoOn(
                Problem.of(ProblemCode.QUERY_REFUSED, sentence, "Write one SELECT under query in the job."));
    }

    private static boolean isParameter(String text, int at) {
        return text.charAt(at) == ':'
                && at + 1 < text.length()
                && Character.isLetter(text.charAt(at + 1))
                && (at == 0 || text.charAt(at - 1) != ':');
    }

    private static boolean isNamePart(char c) {
        return c == '_' || Character.isLetterOrDigit(c);
    }

    /** Where the quoted text or comment that starts here ends; {@code at} where none starts. */
    private static int endOfQuoted(String text, int at) {
        char c = text.charAt(at);
        if (c == '\'' || c == '"' || c == '`') {
            return closed(text.indexOf(c, at + 1), 1);
        }
        if (text.startsWith("--", at)) {
            int line = text.indexOf('\n', at);
            return line < 0 ? text.length() : line;
        }
        if (text.startsWith("/*", at)) {
            return closed(text.indexOf("*/", at + 2), 2);
        }
        if (c == '$') {
            int tagEnd = text.indexOf('$', at + 1);
            boolean tag = tagEnd > 0 && text.substring(at + 1, tagEnd).chars().allMatch(Character::isLetterOrDigit);
            if (tag) {
                String mark = text.substring(at, tagEnd + 1);
                return closed(text.indexOf(mark, tagEnd + 1), mark.length());
            }
        }
        return at;
    }

    private static int closed(int found, int length) {
        if (found < 0) {
            throw refused("A quote or comment in the query never ends.");
        }
        return found + length;
    }
}
