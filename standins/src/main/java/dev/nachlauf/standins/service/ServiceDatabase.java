package dev.nachlauf.standins.service;

import dev.nachlauf.standins.postgresql.PrivateCluster;
import org.flywaydb.core.Flyway;

/**
 * A service's own database, for tests that lend the service from class to class: its start takes longer than most of them.
 * What a first start finds or makes stays; what the class did goes, and the numbers that people see start again.
 *
 * @param name as the cluster has it
 */
public record ServiceDatabase(PrivateCluster cluster, String name) {
    /** The one that was migrated; the others of a cluster are its copies, for migrating takes a quarter of a start. */
    private static final String MIGRATED = "service_migrated";

    /** Creates one with all tables, as the service's migrations make them, and nothing in them. */
    public static synchronized ServiceDatabase create(PrivateCluster cluster, String name) {
        String migrated = "SELECT count(*) FROM pg_database WHERE datname = '" + MIGRATED + "'";
        if (cluster.query("postgres", migrated).equals("0")) {
            cluster.createDatabase(MIGRATED);
            Flyway.configure()
                    .dataSource(cluster.url(MIGRATED), PrivateCluster.ADMIN, "")
                    .load()
                    .migrate();
        }
        cluster.execute("postgres", "CREATE DATABASE " + name + " TEMPLATE " + MIGRATED);
        return new ServiceDatabase(cluster, name);
    }

    /** Whether no run is under way, nor anything that is scheduled. */
    public boolean isAtRest() {
        return isNone("run WHERE state IN ('waiting', 'running')") && isNone("scheduled_tasks WHERE picked");
    }

    private boolean isNone(String rows) {
        return cluster.query(name, "SELECT count(*) FROM " + rows).equals("0");
    }

    /** Forgets all but the first start. False where something still holds on to a table: then the service is good for nobody else. */
    public boolean empty() {
        String tables = cluster.query(name, """
                SELECT string_agg(quote_ident(tablename), ', ') FROM pg_tables WHERE schemaname = 'public' AND tablename NOT IN
                    ('flyway_schema_history', 'scheduled_tasks', 'installation', 'access_token', 'run_number')""");
        try {
            cluster.execute(name, "SET lock_timeout = '2s'; TRUNCATE " + tables + """
                    ; DELETE FROM scheduled_tasks WHERE task_instance <> 'recurring';
                    DELETE FROM access_token WHERE made_by <> 'the first start';
                    UPDATE run_number SET last = 0; ALTER SEQUENCE reject_seq RESTART; ALTER SEQUENCE activity_seq RESTART""");
            return true;
        } catch (IllegalStateException e) {
            return false;
        }
    }
}
