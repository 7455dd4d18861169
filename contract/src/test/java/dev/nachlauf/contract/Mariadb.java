package dev.nachlauf.contract;

import dev.nachlauf.connectors.database.mariadb.MariadbType;
import dev.nachlauf.contract.mariadb.PrivateMariadb;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.Writes;
import java.util.Map;

/** One MariaDB server for all tests of this module. */
final class Mariadb {
    static final PrivateMariadb SHARED = PrivateMariadb.start();

    private Mariadb() {}

    /** A database of the server, through our connector. */
    static Writes system(String database) {
        return system(database, PrivateMariadb.ACCOUNT);
    }

    static Writes system(String database, String user) {
        Map<String, String> settings =
                Map.of("port", String.valueOf(SHARED.port()), "database", database, "user", user, "password", "env:P");
        return (Writes) new MariadbType().open(new Settings(settings, reference -> PrivateMariadb.PASSWORD));
    }

    static String freshDatabase(String... schema) {
        String name = "t" + System.nanoTime();
        SHARED.createDatabase(name);
        SHARED.execute(name, schema);
        return name;
    }
}
