package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.Tls;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.sql.SQLException;
import java.util.Objects;
import java.util.Set;

/**
 * What a server's errors mean.
 *
 * @param server the server, for people
 */
record MariadbErrors(String server) {
    /** No right to the database, the table, the column, or to end a session. */
    private static final Set<Integer> FORBIDDEN = Set.of(1044, 1095, 1142, 1143, 1227);

    /** What kept a connection from being opened. */
    CannotGoOn connecting(SQLException e) {
        return Tls.isRefused(e) ? Tls.refused(server) : of(e);
    }

    /** The text of an error is passed on only where it is about the question, for others may hold values of rows. */
    CannotGoOn of(SQLException e) {
        String state = Objects.requireNonNullElse(e.getSQLState(), "");
        String code = code(e);
        if (state.startsWith("28") || e.getErrorCode() == 1045 || e.getErrorCode() == 1044) {
            return problem(
                    ProblemCode.SIGN_IN_REFUSED,
                    server + " refused the sign-in" + code + ".",
                    "Check user, password and database of the connection.");
        }
        if (e.getErrorCode() == 1049) {
            return problem(
                    ProblemCode.SETTING_MALFORMED,
                    "The server has no such database" + code + ".",
                    "Check database in the connection.");
        }
        if (state.startsWith("42") || state.startsWith("25")) {
            return problem(
                    ProblemCode.QUERY_REFUSED,
                    server + " refuses the question" + code + ": " + e.getMessage(),
                    "Correct query or records in the job.");
        }
        return problem(
                ProblemCode.UNREACHABLE,
                server + " can't be reached or is busy" + code + ".",
                "Check that it is running; host and port stand in the connection.");
    }

    /** What an error means that ends a run which writes. Its text is not passed on: it may hold values of rows. */
    CannotGoOn writing(SQLException e) {
        String state = Objects.requireNonNullElse(e.getSQLState(), "");
        String code = code(e);
        boolean forbidden = FORBIDDEN.contains(e.getErrorCode());
        CannotGoOn problem = forbidden
                ? problem(
                        ProblemCode.NOT_PERMITTED,
                        "The account may not do this in " + server + code + ".",
                        "Ask for the rights, also to create temporary tables, or use another account.")
                : state.startsWith("42")
                        ? problem(
                                ProblemCode.TARGET_CHANGED,
                                "What the job needs of " + server + " is no longer as it was looked at" + code + ".",
                                "Check the job and start it again.")
                        : of(e);
        problem.addSuppressed(new IllegalStateException("SQLSTATE " + state + ", error " + e.getErrorCode()));
        return problem;
    }

    private static String code(SQLException e) {
        return " (SQLSTATE " + e.getSQLState() + ", error " + e.getErrorCode() + ")";
    }

    static CannotGoOn problem(ProblemCode code, String sentence, String remedy) {
        return new CannotGoOn(Problem.of(code, sentence, remedy));
    }
}
