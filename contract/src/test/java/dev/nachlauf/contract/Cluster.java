package dev.nachlauf.contract;

import dev.nachlauf.connectors.database.postgresql.PostgresqlType;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.time.Duration;
import java.util.Map;
import org.awaitility.Awaitility;
import org.awaitility.core.ConditionFactory;

/** One cluster for all tests of this module. */
final class Cluster {
    static final PrivateCluster SHARED = PrivateCluster.start();

    private Cluster() {}

    /** A database of the cluster, through our connector. */
    static Writes system(String database) {
        return system(SHARED, database, PrivateCluster.ADMIN);
    }

    static Writes system(PrivateCluster cluster, String database, String user) {
        Map<String, String> settings =
                Map.of("port", String.valueOf(cluster.port()), "database", database, "user", user);
        return (Writes) new PostgresqlType().open(new Settings(settings, reference -> ""));
    }

    /** Waits for what another thread or process does; whoever waits too long says so. */
    static ConditionFactory patiently() {
        return Awaitility.await()
                .pollInSameThread()
                .pollDelay(Duration.ZERO)
                .pollInterval(Duration.ofMillis(5))
                .atMost(Duration.ofMinutes(5));
    }

    static String freshDatabase(String schema) {
        String name = "t" + System.nanoTime();
        SHARED.createDatabase(name);
        SHARED.execute(name, schema);
        return name;
    }
}
