package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
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
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;

/** A table of PostgreSQL: staged and read by binary COPY, written set by set, its versions told by {@code xmin}. */
final class PostgresqlTable implements DatabaseTable {
    private static final int BATCH_ROWS = 10_000;

    private final Connection connection;
    private final String system;
    private final Table table;
    private final TargetUse use;
    /** Tells the temporary tables of several tables over one connection apart. */
    private final AtomicInteger numbers;

    private final Staging staging;
    private final PostgresqlStaged staged;
    private final Dialect dialect;
    private final OwnTexts texts;
    private final KeyClasses classes;
    private final RecordSearch search;
    private final ChangeStatements statements;

    private PostgresqlTable(Connection connection, String system, Table table, TargetUse use, AtomicInteger numbers)
            throws SQLException {
        this.connection = connection;
        this.system = system;
        this.table = table;
        this.use = use;
        this.numbers = numbers;
        int number = numbers.getAndIncrement();
        staging = new Staging(connection, table, use, number);
        staged = new PostgresqlStaged(connection, table, staging);
        dialect = new PostgresqlDialect(system, table.description().name());
        texts = new OwnTexts(connection, staging.fields());
        classes = new KeyClasses(connection, table, staging, number);
        search = new RecordSearch(connection, table, staging, use.inserts());
        statements = new ChangeStatements(connection, table, staging);
    }

    /** The first table of a connection, which is set for writing. */
    static PostgresqlTable first(Connection connection, String system, Table table, TargetUse use) throws SQLException {
        connection.setAutoCommit(true);
        Sessions.setForWriting(connection);
        return new PostgresqlTable(connection, system, table, use, new AtomicInteger());
    }

    @Override
    public DatabaseTable beside(RecordDescription description, TargetUse others) throws SQLException {
        Table other = Catalog.existing(connection, table.schema(), description.name());
        // temporary tables last where their making is no part of a transaction that may be undone
        connection.rollback();
        connection.setAutoCommit(true);
        PostgresqlTable beside = new PostgresqlTable(connection, system, other, others, numbers);
        connection.setAutoCommit(false);
        return beside;
    }

    @Override
    public StagedTable staged() {
        return staged;
    }

    @Override
    public Dialect dialect() {
        return dialect;
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
    public RecordFinding finding() {
        return search;
    }

    @Override
    public ChangeWriting writing() {
        return statements;
    }

    @Override
    public boolean hasIds() {
        boolean mapped = use.fields().containsAll(table.idColumns(use.identity()));
        return !mapped && table.idSequence().isPresent();
    }

    @Override
    public void reserve(ChangeSet changes, int[] inserts) throws SQLException {
        Sequences.reserve(connection, table.idSequence().orElseThrow(), inserts, changes::identify);
    }

    @Override
    public boolean respells(int field) {
        return staging.fields().get(field).wire().needsCast();
    }

    @Override
    public Map<String, Object> spelled(int field, List<String> values) throws SQLException {
        return texts.of(field, values);
    }

    @Override
    public boolean hasOwnEquality() {
        return staging.keys().stream().anyMatch(Column::ownEquality);
    }

    @Override
    public List<Long> classes(List<Object[]> keys) throws SQLException {
        return classes.of(keys);
    }

    @Override
    public Token token() throws SQLException {
        return Settlements.token(connection);
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

    @Override
    public void forgetStaged() throws SQLException {
        staging.empty(connection);
    }

    @Override
    public void unitBegins() throws SQLException {
        // an earlier unit has had them checked at its end, as this one will
        ChangeStatements.constraints(connection, "DEFERRED");
    }
}
