package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.staged.Dialect;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.sql.SQLException;
import java.util.List;
import java.util.Objects;
import org.postgresql.util.PSQLException;
import org.postgresql.util.ServerErrorMessage;

/**
 * What the errors of PostgreSQL mean while a table is written.
 *
 * @param system the server, for people
 * @param table the name of the table
 */
record PostgresqlDialect(String system, String table) implements Dialect {
    @Override
    public boolean isAboutServer(SQLException e) {
        return Sql.isAboutServer(e);
    }

    @Override
    public boolean isAboutRows(SQLException e) {
        return Sql.isAboutRows(e);
    }

    @Override
    public boolean isAboutConstraints(SQLException e) {
        return Sql.classOf(e).equals("23");
    }

    @Override
    public List<Problem> unexplained(SQLException e) {
        ServerErrorMessage said = e instanceof PSQLException error ? error.getServerErrorMessage() : null;
        String constraint = said == null ? null : said.getConstraint();
        String column = said == null ? null : said.getColumn();
        String sentence = "The database refused the row (SQLSTATE " + e.getSQLState()
                + (constraint == null ? "" : ", constraint " + constraint) + ").";
        String remedy = Objects.equals(e.getSQLState(), "P0001")
                ? "A trigger of " + table + " refused it; ask who looks after the table."
                : "";
        return List.of(
                column == null
                        ? Problem.of(ProblemCode.REFUSED_BY_TARGET, sentence, remedy)
                        : Problem.inField(ProblemCode.REFUSED_BY_TARGET, column, sentence, remedy));
    }

    @Override
    public CannotGoOn cannotGoOn(SQLException e) {
        return Sql.cannotGoOn(system, e);
    }
}
