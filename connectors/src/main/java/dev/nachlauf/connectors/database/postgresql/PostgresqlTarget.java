package dev.nachlauf.connectors.database.postgresql;

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
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;

/** A table that is written by batches: each is one transaction, from the look at the keys to the commit. */
final class PostgresqlTarget
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
    private static final int BATCH_ROWS = 10_000;
    private final TargetSession session;
    private final Connection connection;
    private final String system;
    private final Table table;
    private final TargetUse use;
    private final Staging staging;
    private final Refusals refusals;
    private final OwnSpelling spelling;
    private final KeyClasses classes;
    private final RecordSearch search;

    PostgresqlTarget(Connection connection, String system, Table table, TargetUse use) throws SQLException {
        this(new TargetSession(connection, table.schema()), system, table, use);
    }

    private PostgresqlTarget(TargetSession session, String system, Table table, TargetUse use) throws SQLException {
        this.session = session;
        this.connection = session.connection();
        this.system = system;
        this.table = table;
        this.use = use;
        connection.setAutoCommit(true);
        int number = session.join();
        if (number == 0) {
            Sessions.setForWriting(connection);
        }
        staging = new Staging(connection, table, use, number);
        spelling = new OwnSpelling(connection, staging.fields());
        classes = new KeyClasses(connection, table, staging, number);
        search = new RecordSearch(connection, table, staging, use.inserts());
        refusals = new Refusals(connection, table, staging);
        connection.setTransactionIsolation(Connection.TRANSACTION_READ_COMMITTED);
        connection.setAutoCommit(false);
    }

    @Override
    public Traits traits() {
        Set<Caution> cautions = table.cautions();
        boolean several = !cautions.contains(Caution.BEFORE_TRIGGERS)
                && !cautions.contains(Caution.AFTER_TRIGGERS)
                && !cautions.contains(Caution.REWRITE_RULES)
                && !cautions.contains(Caution.SELF_REFERENCE);
        return new Traits(true, BATCH_ROWS, several);
    }

    @Override
    public Cells cells() {
        return staging.cells();
    }

    @Override
    public void find(RowBlock rows, int[] which, Found found) {
        inDatabase(() -> {
            session.look(staging);
            search.find(rows, which, found);
            return true;
        });
    }

    @Override
    public void list(Consumer<StoredRecord> to) {
        inDatabase(() -> {
            search.list(to);
            return true;
        });
    }

    @Override
    public void list(RowBlock rows, int[] which, Consumer<StoredRecord> to) {
        inDatabase(() -> {
            search.list(rows, which, to);
            return true;
        });
    }

    @Override
    public void alike(ChangeSet changes, int[] which, int[] fields, Found found) {
        inDatabase(() -> {
            new AlikeSearch(connection, table, staging).find(search, changes, which, fields, found);
            return true;
        });
    }

    @Override
    public Map<Integer, List<Problem>> forbidden(ChangeSet changes, int[] removals) {
        return inDatabase(() -> refusals.forbidden(changes, removals));
    }

    @Override
    public boolean hasIds() {
        boolean mapped = use.fields().containsAll(table.idColumns(use.identity()));
        return !mapped && table.idSequence().isPresent();
    }

    @Override
    public void reserve(ChangeSet changes, int[] inserts) {
        if (!hasIds()) {
            return;
        }
        inDatabase(() -> {
            Sequences.reserve(connection, table.idSequence().orElseThrow(), inserts, changes::identify);
            return true;
        });
    }

    @Override
    public Unit begin(UnitId id) {
        return inDatabase(() -> {
            Unit unit = new PostgresqlUnit(
                    connection, this, table, staging, refusals, Settlements.token(connection), session.ending());
            session.unitBegun();
            return unit;
        });
    }

    @Override
    public void rehearse() {
        session.rehearse();
        // what the rehearsal has put there is found
        search.expectOthers();
    }

    @Override
    public Target beside(RecordDescription description, TargetUse others) {
        return inDatabase(() -> {
            Table other = Catalog.table(connection, session.schema(), description.name())
                    .orElseThrow(() -> new SQLException("the table is gone", "42P01"));
            connection.rollback();
            return new PostgresqlTarget(session, system, other, others);
        });
    }

    @Override
    public void apply(Unit unit, Target beside, ChangeSet changes, int[] which, Answers answers) {
        PostgresqlTarget other = (PostgresqlTarget) beside;
        new PostgresqlUnit(
                        connection,
                        other,
                        other.table,
                        other.staging,
                        other.refusals,
                        unit.token(),
                        UnitEnding.ofTransaction(connection))
                .apply(changes, which, answers);
    }

    @Override
    public Settlement settle(Token token, ChangeSet inDoubt) {
        return inDatabase(() -> Settlements.settle(connection, table, staging, token, inDoubt));
    }

    @Override
    public RowBlock respelled(RowBlock rows, int[] which) {
        return inDatabase(() -> spelling.of(rows, which));
    }

    @Override
    public boolean hasOwnEquality() {
        return classes.needed();
    }

    @Override
    public List<Long> classes(List<Object[]> keys) {
        return inDatabase(() -> classes.of(keys));
    }

    @Override
    public String identity() {
        return inDatabase(() -> {
            String identity = Settlements.identity(connection);
            connection.rollback();
            return identity;
        });
    }

    @Override
    public String session() {
        return inDatabase(() -> {
            String name = Sessions.name(connection);
            connection.rollback();
            return name;
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

    /** The table refused a key that was not found there. */
    void expectOthers() {
        search.expectOthers();
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
            throw Sql.cannotGoOn(system, e);
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
