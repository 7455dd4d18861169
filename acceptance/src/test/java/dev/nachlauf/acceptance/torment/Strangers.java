package dev.nachlauf.acceptance.torment;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashSet;
import java.util.Random;
import java.util.Set;

/** Somebody else who writes to the same table: touches records, adds some of his own, and some that the job has, too. */
final class Strangers implements AutoCloseable {
    private final Set<String> added = new HashSet<>();
    private final Thread thread;
    private volatile boolean ending;

    Strangers(Stage stage, RandomJob job, Random random) {
        thread = Thread.ofPlatform().start(() -> {
            while (!ending) {
                try (Connection connection = stage.place(job).connect();
                        Statement statement = connection.createStatement()) {
                    while (!ending) {
                        act(statement, job, random);
                        Stage.pause(15);
                    }
                } catch (SQLException | IllegalStateException e) {
                    Stage.pause(50);
                }
            }
        });
    }

    private void act(Statement statement, RandomJob job, Random random) throws SQLException {
        String code = RandomJob.code(1 + random.nextInt(job.rows));
        if (random.nextInt(4) > 0) {
            statement.executeUpdate(
                    "UPDATE " + job.table(false) + " SET touched = touched + 1 WHERE code = '" + code + "'");
            return;
        }
        String theirs = random.nextBoolean() ? code : "F-" + random.nextInt(100_000);
        // noted before it is tried: whether it was done need not be known
        synchronized (added) {
            added.add(theirs);
        }
        statement.executeUpdate((job.mariadb ? "INSERT IGNORE INTO " : "INSERT INTO ") + job.table(false)
                + " (code, name, beds) VALUES ('" + theirs + "', 'Theirs', 3)"
                + (job.mariadb ? "" : " ON CONFLICT DO NOTHING"));
    }

    /** Keys that they may have added. */
    Set<String> added() {
        synchronized (added) {
            return Set.copyOf(added);
        }
    }

    @Override
    public void close() {
        ending = true;
        try {
            thread.join();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
