package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.HostName;
import dev.nachlauf.connectors.database.QueryText;
import dev.nachlauf.connectors.database.RecordsText;
import dev.nachlauf.connectors.database.RowCursor;
import dev.nachlauf.connectors.database.Tls;
import dev.nachlauf.connectors.database.staged.StagedTarget;
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
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Properties;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.mariadb.jdbc.Driver;

/** One database of a MariaDB server. Every question has its own connection, in a read-only
 * transaction, and every target has one. */
final class MariadbSystem implements Writes, ReadsRecords, LooksUp, EndsSessions {
    private static final int CONNECT_MILLIS = 5_000;
    /** Longer than any statement may take. */
    private static final int ANSWER_MILLIS = 330_000;

    private static final int KEYS_AT_ONCE = 500;
    private static final int USUAL_PORT = 3306;
    private static final int MAY_NOT = 1044;

    private static final String SSL_MODE = "sslMode";

    /** The number of errors that the server knows nothing of. */
    private static final int DRIVER = -1;

    private final String host;
    private final int port;
    private final String database;
    private final Properties account = new Properties();
    private final MariadbErrors errors;

    MariadbSystem(Settings settings) {
        host = HostName.of(settings);
        port = settings.integer("port", USUAL_PORT, 1, 65_535);
        database = settings.required("database");
        errors = new MariadbErrors("MariaDB at " + host + ":" + port);
        account.setProperty("user", settings.required("user"));
        settings.secret("password").ifPresent(password -> account.setProperty("password", password));
        account.setProperty("connectTimeout", String.valueOf(CONNECT_MILLIS));
        account.setProperty("socketTimeout", String.valueOf(ANSWER_MILLIS));
        account.setProperty("tcpKeepAlive", "true");
        account.setProperty(
                SSL_MODE,
                switch (Tls.of(settings)) {
                    case OFF -> "disable";
                    case REQUIRE -> "trust";
                    case VERIFY -> "verify-full";
                });
        Tls.authority(settings).ifPresent(file -> account.setProperty("serverSslCert", file));
        account.setProperty("allowLocalInfile", "false");
        account.setProperty("tinyInt1isBit", "true");
        account.setProperty("useBulkStmts", "true");
    }

    /** A connection in a read-only transaction. */
    private Connection reading() {
        Connection connection = connect();
        try {
            Sessions.setForReading(connection);
            return connection;
        } catch (SQLException e) {
            close(connection);
            throw errors.connecting(e);
        }
    }

    private static void close(Connection connection) {
        try {
            connection.close();
        } catch (SQLException e) {
            // a connection that can't be closed is gone already
        }
    }

    private Connection connect() {
        String url = "jdbc:mariadb://" + host + ":" + port + "/"
                + java.net.URLEncoder.encode(database, java.nio.charset.StandardCharsets.UTF_8);
        try {
            Connection connection = new Driver().connect(url, account);
            if (connection == null) {
                throw new IllegalStateException("the driver does not know its own address");
            }
            return connection;
        } catch (SQLException e) {
            throw isNotWhoItShouldBe(e) ? Tls.refused(errors.server()) : errors.connecting(e);
        }
    }

    /** The driver tells a server without TLS, or with the certificate of another host, by a number of its own and without a cause. */
    private boolean isNotWhoItShouldBe(SQLException e) {
        return e.getErrorCode() == DRIVER
                && e.getCause() == null
                && !account.getProperty(SSL_MODE).equals("disable");
    }

    @Override
    public Greeting greet() {
        try (Connection connection = reading();
                Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery("SELECT version(), current_user()")) {
            row.next();
            boolean writes =
                    Catalog.recordTypes(connection, database).stream().anyMatch(RecordType::writable) && mayStage();
            return new Greeting("MariaDB " + row.getString(1), row.getString(2), true, writes);
        } catch (SQLException e) {
            throw errors.of(e);
        }
    }

    /** Rights come in many ways, so it is tried; the table goes with the connection. */
    private boolean mayStage() throws SQLException {
        try (Connection connection = connect();
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE TEMPORARY TABLE nachlauf_key (n int)" + Staging.engine());
            return true;
        } catch (SQLException e) {
            if (e.getErrorCode() == MAY_NOT) {
                return false;
            }
            throw e;
        }
    }

    @Override
    public List<RecordType> recordTypes() {
        try (Connection connection = reading()) {
            return Catalog.recordTypes(connection, database);
        } catch (SQLException e) {
            throw errors.of(e);
        }
    }

    @Override
    public Optional<RecordDescription> describe(String records) {
        try (Connection connection = reading()) {
            return Catalog.table(connection, database, records).map(Table::description);
        } catch (SQLException e) {
            throw errors.of(e);
        }
    }

    @Override
    public Target target(RecordDescription description, TargetUse use) {
        Connection connection = connect();
        try {
            return StagedTarget.of(MariadbTable.first(connection, errors.server(), database, description, use));
        } catch (SQLException e) {
            close(connection);
            throw errors.writing(e);
        }
    }

    @Override
    public void end(String session) {
        try (Connection connection = connect()) {
            Sessions.end(connection, session);
        } catch (SQLException e) {
            throw errors.writing(e);
        }
    }

    /** Not by what is read in another spelling than it is compared in: truths, fractions, bytes. */
    @Override
    public boolean canFilterBy(FieldDescription field) {
        String type = field.typeName();
        return switch (field.kind()) {
            case TEXT -> type.contains("char") || type.contains("text") || type.startsWith("enum");
            case DECIMAL -> type.startsWith("decimal");
            case INTEGER, DATE, TIME, TIMESTAMP -> true;
            case BOOLEAN -> false;
        };
    }

    @Override
    public RecordCursor read(RecordQuery query) {
        return switch (query) {
            case RecordQuery.Records records -> {
                RecordsText text = RecordsText.of(records, Sql.name(records.name()), Sql::name);
                yield RowCursor.open(reading(), text.text(), text.parameters(), errors::of);
            }
            case RecordQuery.Statement statement ->
                RowCursor.open(reading(), QueryText.parse(statement.text()), statement.parameters(), errors::of);
        };
    }

    @Override
    public List<Match> lookUp(String records, List<String> keyFields, List<String> wanted, List<Object[]> keys) {
        List<Match> matches = new ArrayList<>(Collections.nCopies(keys.size(), Match.NONE));
        for (int from = 0; from < keys.size(); from += KEYS_AT_ONCE) {
            lookUp(records, keyFields, wanted, keys, from, matches);
        }
        return matches;
    }

    /** The server compares, by the collation of its columns; which key a record answers is told by a number. */
    private void lookUp(
            String records,
            List<String> keyFields,
            List<String> wanted,
            List<Object[]> keys,
            int from,
            List<Match> matches) {
        List<String> staged = new ArrayList<>();
        Map<String, @Nullable Object> parameters = new LinkedHashMap<>();
        for (int key = from; key < Math.min(keys.size(), from + KEYS_AT_ONCE); key++) {
            StringBuilder one = new StringBuilder("SELECT " + key + " AS n");
            for (int part = 0; part < keyFields.size(); part++) {
                one.append(", ? AS k").append(part);
                parameters.put("p" + parameters.size(), keys.get(key)[part]);
            }
            staged.add(one.toString());
        }
        StringBuilder match = new StringBuilder();
        for (int part = 0; part < keyFields.size(); part++) {
            match.append(part == 0 ? "" : " AND ")
                    .append("t.")
                    .append(Sql.name(keyFields.get(part)))
                    .append(" = k.k")
                    .append(part);
        }
        String fields = wanted.stream().map(field -> ", t." + Sql.name(field)).collect(Collectors.joining());
        String sql = "SELECT k.n" + fields + " FROM (" + String.join(" UNION ALL ", staged) + ") k JOIN "
                + Sql.name(records) + " t ON " + match + " ORDER BY k.n";
        QueryText text = new QueryText(sql, List.copyOf(parameters.keySet()));
        try (RecordCursor cursor = RowCursor.open(reading(), text, parameters, errors::of)) {
            for (Object[] row = cursor.next(); row != null; row = cursor.next()) {
                int key = Math.toIntExact((Long) Objects.requireNonNull(row[0]));
                Match before = matches.get(key);
                matches.set(
                        key,
                        before.count() == 0
                                ? new Match(1, Arrays.copyOfRange(row, 1, row.length))
                                : new Match(2, before.values()));
            }
        }
    }

    @Override
    public void close() {
        // every question closed its own connection
    }
}
