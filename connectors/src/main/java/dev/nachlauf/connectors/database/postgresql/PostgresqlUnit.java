package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.system.Target.Unit;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.sql.Statement;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** One transaction. Rows that the database refuses are found by asking it, left out, and the rest is written again. */
final class PostgresqlUnit implements Unit {
    private final Connection connection;
    private final PostgresqlTarget target;
    private final Table table;
    private final Token token;
    private final Refusals refusals;
    private final ChangeStatements statements;
    private boolean ended;

    PostgresqlUnit(
            Connection connection,
            PostgresqlTarget target,
            Table table,
            Staging staging,
            Refusals refusals,
            Token token) {
        this.connection = connection;
        this.target = target;
        this.table = table;
        this.token = token;
        this.refusals = refusals;
        this.statements = new ChangeStatements(connection, table, staging);
    }

    @Override
    public Token token() {
        return token;
    }

    @Override
    public List<Answer> apply(List<Change> changes) {
        return target.inDatabase(() -> {
            @Nullable Answer[] answers = new Answer[changes.size()];
            List<Integer> all = IntStream.range(0, changes.size()).boxed().toList();
            Map<Integer, Answer> expected = asked(() -> refusals.askAgain(changes, all));
            expected.forEach((index, answer) -> answers[index] = answer);
            write(
                    changes,
                    all.stream().filter(index -> !expected.containsKey(index)).toList(),
                    answers);
            return Arrays.stream(answers).map(Objects::requireNonNull).toList();
        });
    }

    /** Writes the changes with these indices; those that are refused are sorted out and the rest is written again. */
    private void write(List<Change> changes, List<Integer> indices, @Nullable Answer[] answers) throws SQLException {
        List<Integer> pending = indices;
        while (!pending.isEmpty()) {
            SQLException refusal = attempt(changes, pending, answers);
            if (refusal == null) {
                return;
            }
            Map<Integer, Answer> offenders = offenders(changes, pending, refusal);
            if (offenders.isEmpty()) {
                bisect(changes, pending, refusal, answers);
                return;
            }
            offenders.forEach((index, answer) -> answers[index] = answer);
            pending = pending.stream()
                    .filter(index -> !offenders.containsKey(index))
                    .toList();
        }
    }

    /** Nobody knows which rows are at fault: halves are tried until single rows remain. */
    private void bisect(List<Change> changes, List<Integer> indices, SQLException refusal, @Nullable Answer[] answers)
            throws SQLException {
        if (!Sql.isAboutRows(refusal)) {
            throwIfAboutAll(changes, indices);
        }
        if (indices.size() == 1) {
            answers[indices.getFirst()] = Refusals.unexplained(table, refusal);
            return;
        }
        int middle = indices.size() / 2;
        write(changes, indices.subList(0, middle), answers);
        write(changes, indices.subList(middle, indices.size()), answers);
    }

    /** A right that is missing or a column that is gone is refused without any row, too. */
    private void throwIfAboutAll(List<Change> changes, List<Integer> indices) throws SQLException {
        Savepoint before = connection.setSavepoint();
        statements.writeNothing(changes, indices);
        connection.rollback(before);
    }

    /** The refusal where the database refused, after which nothing of this attempt is left; else null. */
    private @Nullable SQLException attempt(List<Change> changes, List<Integer> indices, @Nullable Answer[] answers)
            throws SQLException {
        Savepoint before = connection.setSavepoint();
        try {
            statements.write(changes, indices, answers);
            try (Statement statement = connection.createStatement()) {
                statement.execute("SET CONSTRAINTS ALL IMMEDIATE");
            }
            connection.releaseSavepoint(before);
            return null;
        } catch (SQLException e) {
            if (Sql.isAboutServer(e)) {
                throw e;
            }
            connection.rollback(before);
            // what was answered is taken back with it: by the next attempt somebody may have changed the record
            indices.forEach(index -> answers[index] = null);
            return e;
        }
    }

    private Map<Integer, Answer> offenders(List<Change> changes, List<Integer> indices, SQLException refusal)
            throws SQLException {
        return Sql.classOf(refusal).equals("23") ? asked(() -> refusals.ask(changes, indices)) : Map.of();
    }

    /** A question about rows. */
    private interface Question {
        Map<Integer, Answer> ask() throws SQLException;
    }

    /** Asks, and leaves nothing behind; a row over which the question itself fails is found by writing. */
    private Map<Integer, Answer> asked(Question question) throws SQLException {
        Savepoint before = connection.setSavepoint();
        try {
            return question.ask();
        } catch (SQLException e) {
            if (Sql.isAboutServer(e)) {
                throw e;
            }
            return Map.of();
        } finally {
            connection.rollback(before);
        }
    }

    @Override
    public void commit() {
        target.inDatabase(() -> {
            connection.commit();
            ended = true;
            target.unitEnded();
            return true;
        });
    }

    @Override
    public void close() {
        if (!ended) {
            ended = true;
            target.unitEnded();
            try {
                connection.rollback();
            } catch (SQLException e) {
                // the connection is gone, and the transaction with it
            }
        }
    }
}
