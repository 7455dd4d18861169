package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ComparesKeys;
import dev.nachlauf.core.system.FindsAlike;
import dev.nachlauf.core.system.ForeseesRemovals;
import dev.nachlauf.core.system.HoldsSession;
import dev.nachlauf.core.system.Identified;
import dev.nachlauf.core.system.ListsRecords;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.Rehearses;
import dev.nachlauf.core.system.ReservesIds;
import dev.nachlauf.core.system.Respells;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.WritesTogether;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;

/** A table that is written by batches: each is one transaction, from the look at the keys to the commit. */
public final class StagedTarget
        implements Target,
                ReservesIds,
                WritesTogether,
                Respells,
                ComparesKeys,
                Identified,
                HoldsSession,
                ListsRecords,
                ForeseesRemovals,
                FindsAlike,
                Rehearses {
    private final TargetSession session;
    private final Connection connection;
    private final DatabaseTable table;
    private final Refusals refusals;
    private final OwnSpelling spelling;

    private StagedTarget(TargetSession session, DatabaseTable table) {
        this.session = session;
        this.table = table;
        connection = table.staged().connection();
        refusals = new Refusals(table.staged());
        spelling = new OwnSpelling(table);
    }

    /** A target over the table's connection, which is set for writing and has its transactions ended here from now on. */
    public static StagedTarget of(DatabaseTable table) throws SQLException {
        Connection connection = table.staged().connection();
        connection.setTransactionIsolation(Connection.TRANSACTION_READ_COMMITTED);
        connection.setAutoCommit(false);
        return new StagedTarget(new TargetSession(connection), table);
    }

    @Override
    public Traits traits() {
        return table.traits();
    }

    @Override
    public Cells cells() {
        return table.staged().cells();
    }

    @Override
    public void find(RowBlock rows, int[] which, Found found) {
        inDatabase(() -> {
            session.look(table);
            table.finding().find(rows, which, found);
            return true;
        });
    }

    @Override
    public void list(Consumer<StoredRecord> to) {
        inDatabase(() -> {
            table.finding().list(to);
            return true;
        });
    }

    @Override
    public void list(RowBlock rows, int[] which, Consumer<StoredRecord> to) {
        inDatabase(() -> {
            table.finding().list(rows, which, to);
            return true;
        });
    }

    @Override
    public long count() {
        return inDatabase(() -> {
            try (Statement statement = connection.createStatement();
                    ResultSet count = statement.executeQuery(
                            "SELECT count(*) FROM " + table.staged().sqlName())) {
                count.next();
                return count.getLong(1);
            } finally {
                connection.rollback();
            }
        });
    }

    @Override
    public void alike(ChangeSet changes, int[] which, int[] fields, Found found) {
        if (which.length > 0 && fields.length > 0) {
            inDatabase(() -> {
                if (!table.finding().findsNone()) {
                    Halves halves = new Halves(table);
                    int[] asked = halves.orElse(which, () -> refusals.withParents(changes, which, fields));
                    halves.of(asked, some -> table.finding().alike(changes, some, fields, found));
                }
                return true;
            });
        }
    }

    @Override
    public Map<Integer, List<Problem>> forbidden(ChangeSet changes, int[] removals) {
        return inDatabase(() -> refusals.forbidden(changes, removals));
    }

    @Override
    public boolean hasIds() {
        return table.hasIds();
    }

    @Override
    public void reserve(ChangeSet changes, int[] inserts) {
        if (table.hasIds()) {
            inDatabase(() -> {
                table.reserve(changes, inserts);
                return true;
            });
        }
    }

    @Override
    public Unit begin(UnitId id) {
        return inDatabase(() -> {
            Unit unit = new TransactionUnit(this, table.token(), session.ending(table));
            session.unitBegun();
            return unit;
        });
    }

    @Override
    public void rehearse() {
        session.rehearse();
        // what the rehearsal has put there is found
        table.finding().expectOthers();
    }

    @Override
    public Target beside(RecordDescription description, TargetUse others) {
        return inDatabase(() -> new StagedTarget(session, table.beside(description, others)));
    }

    @Override
    public void apply(Unit unit, Target beside, ChangeSet changes, int[] which, Answers answers) {
        new TransactionUnit((StagedTarget) beside, unit.token(), UnitEnding.ofTransaction(connection))
                .apply(changes, which, answers);
    }

    @Override
    public Settlement settle(Token token, ChangeSet inDoubt) {
        return inDatabase(() -> {
            Settlement settlement = table.settle(token, inDoubt);
            connection.rollback();
            return settlement;
        });
    }

    @Override
    public RowBlock respelled(RowBlock rows, int[] which) {
        return inDatabase(() -> spelling.of(rows, which));
    }

    @Override
    public boolean hasOwnEquality() {
        return table.hasOwnEquality();
    }

    @Override
    public List<Long> classes(List<Object[]> keys) {
        return inDatabase(() -> new Halves(table).classes(keys));
    }

    @Override
    public String identity() {
        return asked(table::identity);
    }

    @Override
    public String session() {
        return asked(table::session);
    }

    private String asked(Work<String> question) {
        return inDatabase(() -> {
            String answer = question.run();
            connection.rollback();
            return answer;
        });
    }

    @Override
    public void abort() {
        try {
            connection.abort(Runnable::run);
        } catch (SQLException e) {
            // it is gone already
        }
    }

    DatabaseTable table() {
        return table;
    }

    Refusals refusals() {
        return refusals;
    }

    /** The unit under way has been committed or undone. */
    void unitEnded() {
        session.unitEnded();
    }

    /** What is done in the database. */
    interface Work<T> {
        T run() throws SQLException;
    }

    <T> T inDatabase(Work<T> work) {
        try {
            return work.run();
        } catch (SQLException e) {
            rollback();
            throw table.dialect().cannotGoOn(e);
        }
    }

    private void rollback() {
        try {
            connection.rollback();
        } catch (SQLException e) {
            // the connection is gone, and the transaction with it
        }
    }

    @Override
    public void close() {
        try {
            if (!connection.isClosed()) {
                connection.rollback();
                connection.close();
            }
        } catch (SQLException e) {
            // a connection that can't be closed is gone already
        }
    }
}
