package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.system.Target.Unit;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.Arrays;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** One transaction. Rows that the database refuses are found by asking it, left out, and the rest is written again. */
final class TransactionUnit implements Unit {
    private final StagedTarget target;
    private final DatabaseTable table;
    private final Connection connection;
    private final Dialect dialect;
    private final Refusals refusals;
    private final Token token;
    private final UnitEnding ending;
    private boolean ended;

    TransactionUnit(StagedTarget target, Token token, UnitEnding ending) {
        this.target = target;
        this.table = target.table();
        this.connection = table.staged().connection();
        this.dialect = table.dialect();
        this.refusals = target.refusals();
        this.token = token;
        this.ending = ending;
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
                    dialect.isAboutConstraints(refusal) ? asked(() -> refusals.ask(changes, tried)) : Offenders.NONE;
            if (offenders.isEmpty()) {
                bisect(changes, pending, refusal, answers);
                return;
            }
            if (!offenders.moved().isEmpty()) {
                table.finding().expectOthers();
            }
            offenders.answer(answers);
            pending = offenders.without(pending);
        }
    }

    /** Nobody knows which rows are at fault: halves are tried until single rows remain. */
    private void bisect(ChangeSet changes, int[] which, SQLException refusal, Answers answers) throws SQLException {
        if (!dialect.isAboutRows(refusal)) {
            throwIfAboutAll(changes, which);
        }
        if (which.length == 1) {
            answers.refused(which[0], dialect.unexplained(refusal));
            return;
        }
        int middle = which.length / 2;
        write(changes, Arrays.copyOfRange(which, 0, middle), answers);
        write(changes, Arrays.copyOfRange(which, middle, which.length), answers);
    }

    /** A right that is missing or a column that is gone is refused without any row, too. */
    private void throwIfAboutAll(ChangeSet changes, int[] which) throws SQLException {
        Savepoint before = connection.setSavepoint();
        table.writing().writeNothing(changes, which);
        connection.rollback(before);
    }

    /** The refusal where the database refused, after which nothing of this attempt is left; else null. */
    private @Nullable SQLException attempt(ChangeSet changes, int[] which, Answers answers) throws SQLException {
        Savepoint before = connection.setSavepoint();
        try {
            table.writing().write(changes, which, answers);
            connection.releaseSavepoint(before);
            return null;
        } catch (SQLException e) {
            if (dialect.isAboutServer(e)) {
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
            if (dialect.isAboutServer(e)) {
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
