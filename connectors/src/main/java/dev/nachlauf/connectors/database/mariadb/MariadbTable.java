package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.mariadb.Table.Column;
import dev.nachlauf.connectors.database.staged.ChangeWriting;
import dev.nachlauf.connectors.database.staged.DatabaseTable;
import dev.nachlauf.connectors.database.staged.Dialect;
import dev.nachlauf.connectors.database.staged.RecordFinding;
import dev.nachlauf.connectors.database.staged.StagedTable;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.Target.Settlement;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.system.Target.Traits;
import dev.nachlauf.core.system.TargetUse;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/** A table of MariaDB: staged beside columns like its own, written set by set, its versions told by all that it holds. */
final class MariadbTable implements DatabaseTable {
    private static final int BATCH_ROWS = 5_000;
    private static final int NO_SUCH_TABLE = 1146;

    private final Connection connection;
    private final String system;
    private final Table table;
    private final TargetUse use;
    private final Shared shared;
    private final Staging staging;
    private final MariadbStaged staged;
    private final MariadbDialect dialect;
    private final KeyClasses classes;
    private final RecordSearch search;
    private final RowStatements statements;
    private final IdCounter counter;

    private MariadbTable(Connection connection, String system, Table table, TargetUse use, Shared shared)
            throws SQLException {
        this.connection = connection;
        this.system = system;
        this.table = table;
        this.use = use;
        this.shared = shared;
        int number = shared.number();
        staging = new Staging(connection, table, use, number);
        staged = new MariadbStaged(connection, table, staging);
        dialect = new MariadbDialect(system, table.description().name(), use.fields());
        classes = new KeyClasses(connection, staging, number);
        search = new RecordSearch(connection, table, staging, dialect, number);
        statements = new RowStatements(staged, table, staging, search);
        counter = new IdCounter(connection, table, shared);
    }

    /** The first table of a connection, which is set for writing. */
    static MariadbTable first(
            Connection connection, String system, String database, RecordDescription description, TargetUse use)
            throws SQLException {
        Sessions.setForWriting(connection);
        return new MariadbTable(connection, system, described(connection, database, description), use, new Shared());
    }

    private static Table described(Connection connection, String database, RecordDescription description)
            throws SQLException {
        return Catalog.table(connection, database, description.name())
                .orElseThrow(() -> new SQLException("the table is gone", "42S02", NO_SUCH_TABLE));
    }

    @Override
    public DatabaseTable beside(RecordDescription description, TargetUse others) throws SQLException {
        Table other = described(connection, table.database(), description);
        connection.rollback();
        return new MariadbTable(connection, system, other, others, shared);
    }

    @Override
    public StagedTable staged() {
        return staged;
    }

    @Override
    public Dialect dialect() {
        return dialect;
    }

    /** New records lock the gaps of indexes, so two batches at once would wait for each other. */
    @Override
    public Traits traits() {
        return new Traits(true, BATCH_ROWS, false);
    }

    @Override
    public RecordFinding finding() {
        return search;
    }

    @Override
    public ChangeWriting writing() {
        return statements;
    }

    @Override
    public boolean hasIds() {
        List<String> ids = table.idColumns(use.identity());
        return ids.size() == 1
                && table.column(ids.getFirst()).counted()
                && !use.fields().contains(ids.getFirst());
    }

    @Override
    public void reserve(ChangeSet changes, int[] inserts) throws SQLException {
        counter.give(changes, inserts);
    }

    @Override
    public boolean respells(int field) {
        return staging.fields().get(field).respells();
    }

    @Override
    public Map<String, Object> spelled(int field, List<String> values) throws SQLException {
        Column column = staging.fields().get(field);
        int write = staging.values(field, values);
        Map<String, Object> spelled = new HashMap<>();
        try (PreparedStatement statement = connection.prepareStatement(
                "SELECT s.n, s.f" + field + " FROM " + staging.changesTable() + " s WHERE s.w = ?")) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    Object own = Objects.requireNonNull(column.wire().read(row, 2));
                    spelled.put(values.get(row.getInt(1)), own);
                }
            }
        }
        return spelled;
    }

    @Override
    public boolean hasOwnEquality() {
        return classes.needed();
    }

    @Override
    public List<Long> classes(List<Object[]> keys) throws SQLException {
        return classes.of(keys);
    }

    @Override
    public Token token() throws SQLException {
        return new Token(Sessions.name(connection));
    }

    @Override
    public Settlement settle(Token token, ChangeSet inDoubt) throws SQLException {
        return Settlements.settle(staged, token, inDoubt);
    }

    @Override
    public String identity() throws SQLException {
        return Settlements.identity(connection);
    }

    @Override
    public String session() throws SQLException {
        return Sessions.name(connection);
    }

    /** What is staged next takes its place. */
    @Override
    public void forgetStaged() {
        // nothing to do
    }

    /** Constraints never wait here. */
    @Override
    public void unitBegins() {
        // nothing waits
    }
}
