package dev.nachlauf.contract;

import dev.nachlauf.contract.postgresql.PrivateCluster;

/** One cluster for all tests of this module. */
final class Cluster {
    static final PrivateCluster SHARED = PrivateCluster.start();

    private Cluster() {}

    static String freshDatabase(String schema) {
        String name = "t" + System.nanoTime();
        SHARED.createDatabase(name);
        SHARED.execute(name, schema);
        return name;
    }
}
