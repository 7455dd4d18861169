package dev.nachlauf.acceptance;

import dev.nachlauf.contract.mariadb.PrivateMariadb;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;

/** A cellar's stock in MariaDB, and the job that fills it. */
public final class Cellar implements AutoCloseable {
    private static final String JOB = """
            nachlauf: 1
            job: cellar
            read: { connection: wardens-inbox, file: none.csv, fields: { bottles: { is: integer } } }
            steps:
              - lookup: hut
                connection: cellar
                records: hut
                match: { hut_code: hut }
                bring: [id]
            write:
              connection: cellar
              records: stock
              action: upsert
              key: [label]
              map: { label: label, hut_id: hut.id, bottles: bottles }
            """;

    private static final String DATABASE = "cellar";

    private final PrivateMariadb server = PrivateMariadb.start();

    /** Makes the tables, and tells the service of them and of the job. */
    public void furnish(Installation nachlauf) {
        server.createDatabase(DATABASE);
        server.execute(
                DATABASE,
                "CREATE TABLE hut (id bigint AUTO_INCREMENT PRIMARY KEY, hut_code varchar(8) NOT NULL UNIQUE)",
                "INSERT INTO hut (hut_code) VALUES ('H-1'), ('H-2')",
                "CREATE TABLE stock (id bigint AUTO_INCREMENT PRIMARY KEY, label varchar(20) NOT NULL UNIQUE, hut_id bigint,"
                        + " bottles int CHECK (bottles < 500), FOREIGN KEY (hut_id) REFERENCES hut (id))",
                "INSERT INTO stock (label, hut_id, bottles) VALUES ('L-2', 1, 4)");
        keep(nachlauf.state.resolve("secrets/cellar"), PrivateMariadb.PASSWORD);
        nachlauf.save("connection", "cellar", """
                nachlauf: 1
                connection: cellar
                type: mariadb
                settings:
                  port: %d
                  database: %s
                  user: %s
                  password: { file: cellar }
                """.formatted(server.port(), DATABASE, PrivateMariadb.ACCOUNT));
        nachlauf.save("job", "cellar", JOB);
    }

    private static void keep(Path secret, String value) {
        try {
            Files.createDirectories(secret.getParent());
            Files.createFile(
                    secret, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            Files.writeString(secret, value);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    public String query(String sql) {
        return server.query(DATABASE, sql);
    }

    /** All bottles in the order of their labels, such as {@code L-1 1 8; L-2 1 4}. */
    public String stock() {
        return query("SELECT group_concat(label, ' ', hut_id, ' ', bottles ORDER BY label SEPARATOR '; ') FROM stock");
    }

    @Override
    public void close() {
        server.close();
    }
}
