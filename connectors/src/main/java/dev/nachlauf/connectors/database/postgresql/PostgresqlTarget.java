package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.Caution;
import dev.nachlauf.core.system.ReservesIds;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.WritesTogether;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** A table that is written by batches: each is one transaction, from the look at the keys to the commit. */
final class PostgresqlTarget implements Target, ReservesIds, WritesTogether {
    private static final int BATCH_ROWS = 10_000;

    /** What a session is set to, and why. */
    private static final List<String> SESSION = List.of(
            "SET synchronous_commit = on",
            // with the default of 4 the checks of foreign keys read small parents from end to end
            "SET random_page_cost = 1.1",
            // a table that was analysed while empty would be joined by reading it again and again
            "SET enable_hashjoin = off",
            "SET enable_mergejoin = off",
            "SET lock_timeout = '60s'",
            "SET statement_timeout = '15min'",
            "SET client_connection_check_interval = '2s'",
            "SET timezone = 'UTC'",
            "SET client_min_messages = error");

    private final Session session;
    private final Connection connection;
    private final String system;
    private final Table table;
    private final TargetUse use;
    private final Staging staging;
    private final Refusals refusals;
    private final String findSql;

    /** What targets over one connection share. */
    private static final class Session {
        private final Connection connection;
        private final String schema;
        private int targets;
        private boolean unitOpen;

        Session(Connection connection, String schema) {
            this.connection = connection;
            this.schema = schema;
        }
    }

    PostgresqlTarget(Connection connection, String system, Table table, TargetUse use) throws SQLException {
        this(new Session(connection, table.schema()), system, table, use);
    }

    private PostgresqlTarget(Session session, String system, Table table, TargetUse use) throws SQLException {
        this.session = session;
        this.connection = session.connection;
        this.system = system;
        this.table = table;
        this.use = use;
        connection.setAutoCommit(true);
        if (session.targets == 0) {
            try (Statement statement = connection.createStatement()) {
                for (String setting : SESSION) {
                    statement.execute(setting);
                }
            }
        }
        staging = new Staging(connection, table, use, session.targets++);
        refusals = new Refusals(connection, table, staging);
        connection.setTransactionIsolation(Connection.TRANSACTION_READ_COMMITTED);
        connection.setAutoCommit(false);
        findSql = findSql();
    }

    @Override
    public Traits traits() {
        Set<Caution> cautions = table.description().cautions();
        boolean several = !cautions.contains(Caution.BEFORE_TRIGGERS)
                && !cautions.contains(Caution.AFTER_TRIGGERS)
                && !cautions.contains(Caution.REWRITE_RULES)
                && !cautions.contains(Caution.SELF_REFERENCE);
        return new Traits(true, BATCH_ROWS, several);
    }

    /** One index look-up per key, two hits at most: two mean that the key is ambiguous. */
    private String findSql() {
        StringBuilder inner = new StringBuilder("SELECT t.xmin AS mark");
        for (Column id : staging.ids()) {
            inner.append(", ").append(Staging.read("t." + Sql.name(id.name()), id));
        }
        for (Column field : staging.fields()) {
            inner.append(", ").append(Staging.read("t." + Sql.name(field.name()), field));
        }
        inner.append(" FROM ").append(table.sqlName()).append(" t WHERE ");
        for (int i = 0; i < staging.keys().size(); i++) {
            Column key = staging.keys().get(i);
            inner.append(i == 0 ? "" : " AND ")
                    .append("t." + Sql.name(key.name()))
                    .append(" = ")
                    .append(Staging.cast("k.k" + i, key));
        }
        return "SELECT k.n, x.* FROM " + staging.keysTable() + " k CROSS JOIN LATERAL (" + inner
                + " LIMIT 2) x WHERE k.w = ";
    }

    @Override
    public Stored find(Keys keys, FieldSet wanted) {
        if (!wanted.names().equals(use.fields()) || !keys.fields().equals(use.key())) {
            throw new IllegalArgumentException("a target is opened for certain fields and asked for the same");
        }
        return inDatabase(() -> {
            if (!session.unitOpen) {
                // ends the transaction of an earlier look that led to no change
                connection.rollback();
            }
            int write = staging.keys(keys.values());
            int width = Matches.width(staging.ids().size(), staging.fields().size());
            List<BinaryRow> rows = staging.out(findSql + write, width);
            return new Matches(keys.values().size(), rows, staging.ids(), staging.fields());
        });
    }

    @Override
    public List<Object> reserve(int count) {
        boolean mapped = use.fields().containsAll(table.idColumns(use.key()));
        if (mapped || table.idSequence().isEmpty()) {
            return List.of();
        }
        return inDatabase(() -> {
            List<Object> ids = new ArrayList<>(count);
            try (PreparedStatement statement =
                    connection.prepareStatement("SELECT nextval(?::regclass) FROM generate_series(1, ?)")) {
                statement.setString(1, table.idSequence().get());
                statement.setInt(2, count);
                try (ResultSet row = statement.executeQuery()) {
                    while (row.next()) {
                        ids.add(row.getLong(1));
                    }
                }
            }
            return ids;
        });
    }

    @Override
    public Unit begin(UnitId id) {
        return inDatabase(() -> {
            Unit unit = new PostgresqlUnit(connection, this, table, staging, refusals, Settlements.token(connection));
            session.unitOpen = true;
            return unit;
        });
    }

    @Override
    public Target beside(RecordDescription description, TargetUse others) {
        return inDatabase(() -> {
            Table other = Catalog.table(connection, session.schema, description.name())
                    .orElseThrow(() -> new SQLException("the table is gone", "42P01"));
            connection.rollback();
            return new PostgresqlTarget(session, system, other, others);
        });
    }

    @Override
    public List<Answer> apply(Unit unit, Target beside, List<Change> changes) {
        PostgresqlTarget other = (PostgresqlTarget) beside;
        return new PostgresqlUnit(connection, other, other.table, other.staging, other.refusals, unit.token())
                .apply(changes);
    }

    @Override
    public Settlement settle(Token token, List<Change> inDoubt) {
        return inDatabase(() -> Settlements.settle(connection, table, staging, token, inDoubt));
    }

    /** The unit under way has been committed or undone. */
    void unitEnded() {
        session.unitOpen = false;
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
