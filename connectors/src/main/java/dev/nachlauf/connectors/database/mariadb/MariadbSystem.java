package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.HostName;
import dev.nachlauf.connectors.database.QueryText;
import dev.nachlauf.connectors.database.RecordsText;
import dev.nachlauf.connectors.database.RowCursor;
import dev.nachlauf.connectors.database.Tls;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FieldTraits;
import dev.nachlauf.core.system.FieldTraits.OnCreate;
import dev.nachlauf.core.system.LooksUp;
import dev.nachlauf.core.system.ReadsRecords;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.value.Kind;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Properties;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.mariadb.jdbc.Driver;

/** One database of a MariaDB server. Every question has its own connection, in a read-only transaction. */
final class MariadbSystem implements ReadsRecords, LooksUp {
    private static final int CONNECT_MILLIS = 5_000;
    /** Longer than any statement may take. */
    private static final int ANSWER_MILLIS = 330_000;

    private static final int KEYS_AT_ONCE = 500;
    private static final int USUAL_PORT = 3306;

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
                "sslMode",
                switch (Tls.of(settings)) {
                    case OFF -> "disable";
                    case REQUIRE -> "trust";
                    case VERIFY -> "verify-full";
                });
        Tls.authority(settings).ifPresent(file -> account.setProperty("serverSslCert", file));
        account.setProperty("allowLocalInfile", "false");
        account.setProperty("tinyInt1isBit", "true");
    }

    private Connection connect() {
        String url = "jdbc:mariadb://" + host + ":" + port + "/"
                + java.net.URLEncoder.encode(database, java.nio.charset.StandardCharsets.UTF_8);
        try {
            Connection connection = new Driver().connect(url, account);
            if (connection == null) {
                throw new IllegalStateException("the driver does not know its own address");
            }
            try (Statement statement = connection.createStatement()) {
                statement.execute("SET SESSION max_statement_time = 300, lock_wait_timeout = 10");
                statement.execute("SET SESSION TRANSACTION READ ONLY");
                statement.execute("START TRANSACTION READ ONLY");
            } catch (SQLException e) {
                connection.close();
                throw e;
            }
            return connection;
        } catch (SQLException e) {
            throw errors.connecting(e);
        }
    }

    @Override
    public Greeting greet() {
        try (Connection connection = connect();
                Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery("SELECT version(), current_user()")) {
            row.next();
            return new Greeting("MariaDB " + row.getString(1), row.getString(2), true, false);
        } catch (SQLException e) {
            throw errors.of(e);
        }
    }

    @Override
    public List<RecordType> recordTypes() {
        try (Connection connection = connect();
                PreparedStatement statement = connection.prepareStatement(
                        "SELECT table_name, table_comment, table_rows FROM information_schema.tables"
                                + " WHERE table_schema = ? ORDER BY table_name")) {
            statement.setString(1, database);
            List<RecordType> types = new ArrayList<>();
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    long about = rows.getLong(3);
                    OptionalLong estimate = rows.wasNull() ? OptionalLong.empty() : OptionalLong.of(about);
                    types.add(new RecordType(
                            rows.getString(1), Objects.requireNonNullElse(rows.getString(2), ""), false, estimate));
                }
            }
            return types;
        } catch (SQLException e) {
            throw errors.of(e);
        }
    }

    @Override
    public Optional<RecordDescription> describe(String records) {
        try (Connection connection = connect()) {
            List<FieldDescription> fields = fields(connection, records);
            return fields.isEmpty()
                    ? Optional.empty()
                    : Optional.of(new RecordDescription(records, false, fields, keys(connection, records), List.of()));
        } catch (SQLException e) {
            throw errors.of(e);
        }
    }

    private List<FieldDescription> fields(Connection connection, String records) throws SQLException {
        List<FieldDescription> fields = new ArrayList<>();
        try (PreparedStatement statement = connection.prepareStatement(
                "SELECT column_name, data_type, column_type, is_nullable, character_maximum_length"
                        + " FROM information_schema.columns WHERE table_schema = ? AND table_name = ?"
                        + " ORDER BY ordinal_position")) {
            statement.setString(1, database);
            statement.setString(2, records);
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    long length = rows.getLong(5);
                    boolean bounded = !rows.wasNull() && length <= Integer.MAX_VALUE;
                    fields.add(new FieldDescription(
                            rows.getString(1),
                            kind(rows.getString(2), rows.getString(3)),
                            rows.getString(3),
                            bounded ? OptionalInt.of((int) length) : OptionalInt.empty(),
                            OptionalInt.empty(),
                            OptionalInt.empty(),
                            OptionalInt.empty(),
                            new FieldTraits(
                                    OnCreate.FREE, false, rows.getString(4).equals("YES"), "MariaDB is read from only"),
                            List.of(),
                            false));
                }
            }
        }
        return fields;
    }

    private static Kind kind(String dataType, String columnType) {
        return switch (dataType.toLowerCase(Locale.ROOT)) {
            case "tinyint" -> columnType.equals("tinyint(1)") ? Kind.BOOLEAN : Kind.INTEGER;
            case "smallint", "mediumint", "int", "bigint", "year" -> Kind.INTEGER;
            case "decimal", "float", "double" -> Kind.DECIMAL;
            case "bit" -> Kind.BOOLEAN;
            case "date" -> Kind.DATE;
            case "time" -> Kind.TIME;
            case "datetime", "timestamp" -> Kind.TIMESTAMP;
            default -> Kind.TEXT;
        };
    }

    private List<UniqueKey> keys(Connection connection, String records) throws SQLException {
        Map<String, List<String>> keys = new LinkedHashMap<>();
        try (PreparedStatement statement =
                connection.prepareStatement("SELECT index_name, column_name FROM information_schema.statistics"
                        + " WHERE table_schema = ? AND table_name = ? AND non_unique = 0"
                        + " ORDER BY index_name, seq_in_index")) {
            statement.setString(1, database);
            statement.setString(2, records);
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    keys.computeIfAbsent(rows.getString(1), name -> new ArrayList<>())
                            .add(rows.getString(2));
                }
            }
        }
        return keys.entrySet().stream()
                .map(key ->
                        new UniqueKey(key.getKey(), key.getValue(), key.getKey().equals("PRIMARY")))
                .toList();
    }

    @Override
    public RecordCursor read(RecordQuery query) {
        return switch (query) {
            case RecordQuery.Records records -> {
                RecordsText text = RecordsText.of(records, quoted(records.name()), MariadbSystem::quoted);
                yield RowCursor.open(connect(), text.text(), text.parameters(), errors::of);
            }
            case RecordQuery.Statement statement ->
                RowCursor.open(connect(), QueryText.parse(statement.text()), statement.parameters(), errors::of);
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
                    .append(quoted(keyFields.get(part)))
                    .append(" = k.k")
                    .append(part);
        }
        String fields = wanted.stream().map(field -> ", t." + quoted(field)).collect(Collectors.joining());
        String sql = "SELECT k.n" + fields + " FROM (" + String.join(" UNION ALL ", staged) + ") k JOIN "
                + quoted(records) + " t ON " + match + " ORDER BY k.n";
        QueryText text = new QueryText(sql, List.copyOf(parameters.keySet()));
        try (RecordCursor cursor = RowCursor.open(connect(), text, parameters, errors::of)) {
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

    /** The one place that quotes an identifier. */
    private static String quoted(String identifier) {
        if (identifier.indexOf('\0') >= 0) {
            throw new IllegalArgumentException("an identifier can't hold NUL");
        }
        return '`' + identifier.replace("`", "``") + '`';
    }

    @Override
    public void close() {
        // every question closed its own connection
    }
}
