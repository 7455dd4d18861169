package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.system.Target.Unit;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.sql.Statement;
import java.util.Arrays;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** One transaction. Rows that the database refuses are found by asking it, left out, and the rest is written again. */
final class PostgresqlUnit implements Unit {
    private final Connection connection;
    private final PostgresqlTarget target;
    private final Table table;
    private final Token token;
    private final UnitEnding ending;
    private final Refusals refusals;
    private final ChangeStatements statements;
    private boolean ended;

    PostgresqlUnit(
            Connection connection,
            PostgresqlTarget target,
            Table table,
            Staging staging,
            Refusals refusals,
            Token token,
            UnitEnding ending) {
        this.connection = connection;
        this.target = target;
        this.table = table;
        this.token = token;
        this.ending = ending;
        this.refusals = refusals;
        this.statements = new ChangeStatements(connection, table, staging);
    }

    @Override
    public Token token() {
        return token;
    }

    @Override
    public void apply(ChangeSet changes, int[] which, Answers answers) {
        target.inDatabase(() -> {
            Offenders expected = asked(() -> refusals.askAgain(changes, which));
            expected.answer(answers);
            write(changes, expected.without(which), answers);
            return true;
        });
    }

    /** Writes the changes of these rows; those that are refused are sorted out and the rest is written again. */
    private void write(ChangeSet changes, int[] which, Answers answers) throws SQLException {
        int[] pending = which;
        while (pending.length > 0) {
            SQLException refusal = attempt(changes, pending, answers);
            if (refusal == null) {
                return;
            }
            int[] tried = pending;
            Offenders offenders =
                    Sql.classOf(refusal).equals("23") ? asked(() -> refusals.ask(changes, tried)) : Offenders.NONE;
            if (offenders.isEmpty()) {
                bisect(changes, pending, refusal, answers);
                return;
            }
            if (!offenders.moved().isEmpty()) {
                target.expectOthers();
            }
            offenders.answer(answers);
            pending = offenders.without(pending);
        }
    }

    /** Nobody knows which rows are at fault: halves are tried until single rows remain. */
    private void bisect(ChangeSet changes, int[] which, SQLException refusal, Answers answers) throws SQLException {
        if (!Sql.isAboutRows(refusal)) {
            throwIfAboutAll(changes, which);
        }
        if (which.length == 1) {
            answers.refused(which[0], Refusals.unexplained(table, refusal));
            return;
        }
        int middle = which.length / 2;
        write(changes, Arrays.copyOfRange(which, 0, middle), answers);
        write(changes, Arrays.copyOfRange(which, middle, which.length), answers);
    }

    /** A right that is missing or a column that is gone is refused without any row, too. */
    private void throwIfAboutAll(ChangeSet changes, int[] which) throws SQLException {
        Savepoint before = connection.setSavepoint();
        statements.writeNothing(changes, which);
        connection.rollback(before);
    }

    /** The refusal where the database refused, after which nothing of this attempt is left; else null. */
    private @Nullable SQLException attempt(ChangeSet changes, int[] which, Answers answers) throws SQLException {
        Savepoint before = connection.setSavepoint();
        try {
            statements.write(changes, which, answers);
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
            IntStream.of(which).forEach(answers::forget);
            return e;
        }
    }

    /** A question about rows. */
    private interface Question {
        Offenders ask() throws SQLException;
    }

    /** Asks, and leaves nothing behind; a row over which the question itself fails is found by writing. */
    private Offenders asked(Question question) throws SQLException {
        Savepoint before = connection.setSavepoint();
        try {
            return question.ask();
        } catch (SQLException e) {
            if (Sql.isAboutServer(e)) {
                throw e;
            }
            return Offenders.NONE;
        } finally {
            connection.rollback(before);
        }
    }

    @Override
    public void commit() {
        target.inDatabase(() -> {
            ending.keep();
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
                ending.undo();
            } catch (SQLException e) {
                // the connection is gone, and the transaction with it
            }
        }
    }
}
