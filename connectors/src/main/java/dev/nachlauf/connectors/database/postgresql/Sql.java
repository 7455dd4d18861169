package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.sql.SQLException;
import java.util.Collection;
import java.util.Objects;
import java.util.stream.Collectors;

/** Pieces of SQL, and what the database's error classes mean to us. */
final class Sql {
    private Sql() {}

    /** The one place that quotes an identifier. */
    static String name(String identifier) {
        if (identifier.indexOf('\0') >= 0) {
            throw new IllegalArgumentException("an identifier can't hold NUL");
        }
        return '"' + identifier.replace("\"", "\"\"") + '"';
    }

    /** Identifiers with a prefix before each, joined by commas. */
    static String names(String prefix, Collection<String> identifiers) {
        return identifiers.stream().map(one -> prefix + name(one)).collect(Collectors.joining(", "));
    }

    /** The class of an error: the first two characters of its SQLSTATE. */
    static String classOf(SQLException e) {
        String state = Objects.requireNonNullElse(e.getSQLState(), "");
        return state.length() < 2 ? "" : state.substring(0, 2);
    }

    /** Whether the error is about the rows that were sent, so that leaving some out helps. */
    static boolean isAboutRows(SQLException e) {
        return switch (classOf(e)) {
            case "21", "22", "23", "27", "44", "P0" -> true;
            default -> false;
        };
    }

    /**
     * Whether leaving rows out can't help: the connection is gone, or the server is short of room, busy, or shutting down.
     * Every other error may be that of one row: an index entry that is too large, a row that row security forbids, a
     * function that fails.
     */
    static boolean isAboutServer(SQLException e) {
        return switch (classOf(e)) {
            case "08", "25", "40", "53", "55", "57", "58", "" -> true;
            default -> false;
        };
    }

    /** What an error that is not about rows means. Its text is not passed on: it may hold values of rows. */
    static CannotGoOn cannotGoOn(String system, SQLException e) {
        String state = Objects.requireNonNullElse(e.getSQLState(), "");
        String code = " (SQLSTATE " + state + ")";
        return switch (classOf(e)) {
            case "28" ->
                problem(
                        ProblemCode.SIGN_IN_REFUSED,
                        system + " refused the sign-in" + code + ".",
                        "Check user and password of the connection.",
                        e);
            case "3D" ->
                problem(
                        ProblemCode.SETTING_MALFORMED,
                        "The server has no such database" + code + ".",
                        "Check database in the connection.",
                        e);
            case "42" -> forbiddenOrChanged(system, code, state.equals("42501"), e);
            case "08", "53", "55", "57", "58", "40", "25", "" ->
                problem(
                        ProblemCode.UNREACHABLE,
                        system + " can't be reached or is busy" + code + ".",
                        "Check that it is running; host and port stand in the connection.",
                        e);
            default ->
                problem(
                        ProblemCode.INTERNAL,
                        "The database refused a statement of Nachlauf" + code + ".",
                        "Please report this code.",
                        e);
        };
    }

    private static CannotGoOn forbiddenOrChanged(String system, String code, boolean forbidden, SQLException e) {
        return forbidden
                ? problem(
                        ProblemCode.NOT_PERMITTED,
                        "The account may not do this in " + system + code + ".",
                        "Ask for the rights, also to create temporary tables, or use another account.",
                        e)
                : problem(
                        ProblemCode.TARGET_CHANGED,
                        "What the job needs of " + system + " is no longer as it was looked at" + code + ".",
                        "Check the job and start it again.",
                        e);
    }

    private static CannotGoOn problem(ProblemCode code, String sentence, String remedy, SQLException e) {
        CannotGoOn problem = new CannotGoOn(Problem.of(code, sentence, remedy));
        problem.addSuppressed(new IllegalStateException("SQLSTATE " + e.getSQLState()));
        return problem;
    }
}
