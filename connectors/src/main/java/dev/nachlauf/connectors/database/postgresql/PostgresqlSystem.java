package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.QueryText;
import dev.nachlauf.connectors.database.RecordsText;
import dev.nachlauf.connectors.database.RowCursor;
import dev.nachlauf.connectors.database.staged.StagedTarget;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.ConnectsAhead;
import dev.nachlauf.core.system.EndsSessions;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.LooksUp;
import dev.nachlauf.core.system.ReadsRecords;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.locks.ReentrantLock;
import org.jspecify.annotations.Nullable;

/** One schema of a PostgreSQL database. Looking uses one connection, which then becomes that of a target; every target has its own. */
final class PostgresqlSystem implements Writes, ReadsRecords, LooksUp, EndsSessions, ConnectsAhead {
    private static final Problem ALMIGHTY = Problem.of(
            ProblemCode.ACCOUNT_ALMIGHTY,
            "The account is a superuser: a query of a job could run programs on the database's host.",
            "Use an account that owns nothing and may do what the jobs need.");

    private final Server server;
    private final String schema;
    private final ReentrantLock oneAtATime = new ReentrantLock();
    private @Nullable Connection looking;
    /** The tables that were described, by name. */
    private final Map<String, Table> described = new HashMap<>();

    PostgresqlSystem(Settings settings) {
        server = new Server(settings);
        schema = settings.text("schema").orElse("public");
    }

    /** What is asked of the looking connection. */
    private interface Look<T> {
        T at(Connection connection) throws SQLException;
    }

    /** A lock that lets a virtual thread go while it waits. */
    private <T> T look(Look<T> look) {
        oneAtATime.lock();
        try {
            return look.at(lookingConnection());
        } catch (SQLException e) {
            throw Sql.cannotGoOn(server.shown(), e);
        } finally {
            oneAtATime.unlock();
        }
    }

    /** The looking connection may have said nothing for long; a server, or something on the way to it, ends such ones. */
    private Connection lookingConnection() throws SQLException {
        Connection last = looking;
        if (last != null && last.isValid(Server.CONNECT_SECONDS)) {
            return last;
        }
        close();
        Connection fresh = server.connect();
        looking = fresh;
        try {
            Sessions.setForLooking(fresh);
            return fresh;
        } catch (SQLException e) {
            close();
            throw e;
        }
    }

    @Override
    public void connect() {
        look(connection -> connection);
    }

    @Override
    public Greeting greet() {
        return look(connection -> {
            try (Statement statement = connection.createStatement();
                    ResultSet row = statement.executeQuery("SELECT current_setting('server_version'), current_user,"
                            + " has_database_privilege(current_database(), 'TEMP'), current_setting('is_superuser')")) {
                row.next();
                boolean writes = row.getBoolean(3)
                        && Catalog.recordTypes(connection, schema).stream().anyMatch(RecordType::writable);
                return new Greeting(
                        "PostgreSQL " + row.getString(1),
                        row.getString(2),
                        true,
                        writes,
                        row.getString(4).equals("on") ? List.of(ALMIGHTY) : List.of());
            }
        });
    }

    @Override
    public List<RecordType> recordTypes() {
        return look(connection -> Catalog.recordTypes(connection, schema));
    }

    @Override
    public Optional<RecordDescription> describe(String records) {
        return look(connection -> {
            Optional<Table> table = Catalog.table(connection, schema, records);
            // one that is gone is forgotten
            described.compute(records, (name, before) -> table.orElse(null));
            return table.map(Table::description);
        });
    }

    /** Not by what is read in another spelling than it is compared in: padded texts, fractions, types of PostgreSQL's own. */
    @Override
    public boolean canFilterBy(FieldDescription field) {
        String type = field.typeName();
        return switch (field.kind()) {
            case TEXT -> type.equals("text") || type.startsWith("character varying");
            case DECIMAL -> type.startsWith("numeric");
            case INTEGER, BOOLEAN, DATE, TIME, TIMESTAMP -> true;
        };
    }

    @Override
    public RecordCursor read(RecordQuery query) {
        return switch (query) {
            case RecordQuery.Records records -> {
                RecordsText text =
                        RecordsText.of(records, Sql.name(schema) + "." + Sql.name(records.name()), Sql::name);
                yield RowCursor.open(reading(), text.text(), text.parameters(), this::refused);
            }
            case RecordQuery.Statement statement ->
                RowCursor.open(reading(), QueryText.parse(statement.text()), statement.parameters(), this::refused);
        };
    }

    @Override
    public List<Match> lookUp(String records, List<String> keyFields, List<String> wanted, List<Object[]> keys) {
        return look(connection ->
                Lookups.find(connection, Catalog.existing(connection, schema, records), keyFields, wanted, keys));
    }

    /** A connection in a read-only transaction, which is also what lets the driver fetch some rows at a time. */
    private Connection reading() {
        Connection connection = server.connect();
        try {
            Sessions.setForReading(connection);
            connection.setSchema(schema);
            connection.setReadOnly(true);
            connection.setAutoCommit(false);
            return connection;
        } catch (SQLException e) {
            close(connection);
            throw Sql.cannotGoOn(server.shown(), e);
        }
    }

    /** An error about the question itself holds no values of rows, and its text is what helps. */
    private CannotGoOn refused(SQLException e) {
        if (Sql.classOf(e).equals("42") || Sql.classOf(e).equals("25")) {
            return new CannotGoOn(Problem.of(
                    ProblemCode.QUERY_REFUSED,
                    server.shown() + " refuses the question: "
                            + String.valueOf(e.getMessage()).lines().findFirst().orElse(""),
                    "Correct query or records in the job."));
        }
        return Sql.cannotGoOn(server.shown(), e);
    }

    /**
     * The connection that has looked becomes the target's: it has read the catalog, and proving who we are takes a fresh one as long as
     * writing a few rows. Whoever looks again gets another one. A table that was described is not looked at again.
     */
    @Override
    public Target target(RecordDescription description, TargetUse use) {
        Table table;
        Connection writing;
        oneAtATime.lock();
        try {
            table = look(connection -> described(connection, description));
            writing = Objects.requireNonNull(looking);
            looking = null;
        } finally {
            oneAtATime.unlock();
        }
        try {
            return StagedTarget.of(PostgresqlTable.first(writing, server.shown(), table, use));
        } catch (SQLException e) {
            close(writing);
            throw Sql.cannotGoOn(server.shown(), e);
        }
    }

    private Table described(Connection connection, RecordDescription description) throws SQLException {
        Table known = described.get(description.name());
        return known != null && known.description().equals(description)
                ? known
                : Catalog.existing(connection, schema, description.name());
    }

    private static void close(Connection connection) {
        try {
            connection.close();
        } catch (SQLException e) {
            // a connection that can't be closed is gone already
        }
    }

    @Override
    public void end(String session) {
        try (Connection connection = server.connect()) {
            Sessions.end(connection, session);
        } catch (SQLException e) {
            throw Sql.cannotGoOn(server.shown(), e);
        }
    }

    @Override
    public void close() {
        oneAtATime.lock();
        try {
            if (looking != null) {
                close(looking);
                looking = null;
            }
        } finally {
            oneAtATime.unlock();
        }
    }
}
