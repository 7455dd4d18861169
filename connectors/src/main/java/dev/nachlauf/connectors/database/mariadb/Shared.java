package dev.nachlauf.connectors.database.mariadb;

import java.util.HashMap;
import java.util.Map;

/** What the tables over one connection share. */
final class Shared {
    /** The last id that was given to a new record, by table. */
    private final Map<String, Long> lastIds = new HashMap<>();

    private int tables;

    /** Tells the temporary tables of several tables apart; from 0. */
    int number() {
        return tables++;
    }

    long lastId(String table) {
        return lastIds.getOrDefault(table, 0L);
    }

    void gave(String table, long id) {
        lastIds.put(table, id);
    }
}
