package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.staged.Dialect;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.sql.SQLException;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What the errors of MariaDB mean while a table is written.
 *
 * @param system the server, for people
 * @param table the name of the table
 * @param fields the names of the written columns, which are numbered where changes are staged
 */
record MariadbDialect(String system, String table, List<String> fields) implements Dialect {
    /** No room, no memory, locks that can't be had, a server that goes, a session that was ended. */
    private static final Set<Integer> SERVER = Set.of(
            1021, 1030, 1037, 1038, 1040, 1041, 1053, 1114, 1135, 1180, 1205, 1206, 1213, 1290, 1836, 2006, 2013);

    private static final Set<Integer> ROWS = Set.of(1264, 1265, 1292, 1364, 1366, 1367, 1406, 1411, 1441, 1644);
    private static final Pattern STAGED = Pattern.compile("[`']f(\\d+)[`']");

    private static String classOf(SQLException e) {
        String state = Objects.requireNonNullElse(e.getSQLState(), "");
        return state.length() < 2 ? "" : state.substring(0, 2);
    }

    @Override
    public boolean isAboutServer(SQLException e) {
        return SERVER.contains(e.getErrorCode())
                || switch (classOf(e)) {
                    case "08", "25", "40", "70", "" -> true;
                    default -> false;
                };
    }

    @Override
    public boolean isAboutRows(SQLException e) {
        return ROWS.contains(e.getErrorCode())
                || switch (classOf(e)) {
                    case "21", "22", "23", "45" -> true;
                    default -> false;
                };
    }

    @Override
    public boolean isAboutConstraints(SQLException e) {
        return classOf(e).equals("23");
    }

    /** Of the error's text only the name of a staged column is looked at. */
    @Override
    public List<Problem> unexplained(SQLException e) {
        String sentence =
                "The database refused the row (SQLSTATE " + e.getSQLState() + ", error " + e.getErrorCode() + ").";
        String remedy = classOf(e).equals("45") ? "A trigger of " + table + " refused it; ask who looks after it." : "";
        Matcher column = STAGED.matcher(String.valueOf(e.getMessage()));
        return List.of(
                column.find()
                        ? Problem.inField(
                                ProblemCode.REFUSED_BY_TARGET,
                                fields.get(Integer.parseInt(column.group(1))),
                                sentence,
                                remedy)
                        : Problem.of(ProblemCode.REFUSED_BY_TARGET, sentence, remedy));
    }

    @Override
    public CannotGoOn cannotGoOn(SQLException e) {
        return new MariadbErrors(system).writing(e);
    }
}
