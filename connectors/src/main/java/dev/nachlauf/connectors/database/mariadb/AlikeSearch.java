package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.mariadb.Table.Column;
import dev.nachlauf.core.system.Target.Found;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** Finds records by any of the written fields: digests of the staged rows are indexed, and the table is read once. */
final class AlikeSearch {
    private final Connection connection;
    private final Table table;
    private final Staging staging;
    private final String digests;
    private boolean created;

    AlikeSearch(Connection connection, Table table, Staging staging, int number) {
        this.connection = connection;
        this.table = table;
        this.staging = staging;
        this.digests = "nachlauf_alike_" + number;
    }

    void find(RecordSearch search, int write, int[] fields, Found found) throws SQLException {
        create();
        List<Column> columns =
                IntStream.of(fields).mapToObj(staging.fields()::get).toList();
        String staged = IntStream.of(fields)
                .mapToObj(i -> ", QUOTE(BINARY s.f" + i + ")")
                .collect(Collectors.joining());
        try (PreparedStatement statement = connection.prepareStatement("INSERT INTO " + digests
                + " (w, n, digest) SELECT s.w, s.n, MD5(CONCAT_WS(','" + staged + ")) FROM " + staging.changesTable()
                + " s WHERE s.w = ?")) {
            statement.setInt(1, write);
            statement.executeUpdate();
        }
        String wanted = search.wanted();
        search.each(
                "SELECT * FROM (SELECT a.n, " + wanted + ", ROW_NUMBER() OVER (PARTITION BY a.n) AS place FROM "
                        + table.sqlName() + " t STRAIGHT_JOIN " + digests + " a FORCE INDEX FOR JOIN (digest)"
                        + " ON a.digest = " + RecordSearch.digest("t", columns) + " WHERE a.w = ?) x WHERE x.place = 1",
                write,
                found);
        empty();
    }

    private void create() throws SQLException {
        if (!created) {
            try (Statement statement = connection.createStatement()) {
                statement.execute(
                        "CREATE TEMPORARY TABLE " + digests
                                + " (w int, n int, digest char(32) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin, KEY digest (digest)) ENGINE=InnoDB");
            }
            created = true;
        }
    }

    private void empty() throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute("DELETE FROM " + digests);
        }
    }
}
