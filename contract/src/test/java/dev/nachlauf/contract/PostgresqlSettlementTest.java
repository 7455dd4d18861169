package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.contract.target.Applied;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.EndsSessions;
import dev.nachlauf.core.system.HoldsSession;
import dev.nachlauf.core.system.Identified;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.Settlement;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.system.Target.Unit;
import dev.nachlauf.core.system.Target.UnitId;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** What became of a transaction whose end nobody saw, asked after everything that can happen to a server. */
class PostgresqlSettlementTest {
    private static final UnitId UNIT = new UnitId("1", 1, 0);
    private static final Token OF_ANOTHER_TIME = new Token("0 0 0 1 1");

    private final List<AutoCloseable> opened = new ArrayList<>();

    private Writes system(PrivateCluster cluster, String database) {
        Writes system = Cluster.system(cluster, database, PrivateCluster.ADMIN);
        opened.add(system);
        return system;
    }

    private Target target(Writes system, String... fields) {
        Target target =
                system.target(system.describe("hut").orElseThrow(), new TargetUse(List.of(fields[0]), List.of(fields)));
        opened.add(target);
        return target;
    }

    @AfterEach
    void close() throws Exception {
        for (AutoCloseable one : opened.reversed()) {
            one.close();
        }
    }

    private static Settlement settle(Target target, Token token, List<? extends Change> inDoubt) {
        return target.settle(token, ChangeSet.of(target.cells(), inDoubt));
    }

    private static Change.Insert insert(Object id, Object... values) {
        return new Change.Insert(id, values);
    }

    private static Change.Update update(Object id, int field, Object... values) {
        BitSet changed = new BitSet();
        changed.set(field);
        return new Change.Update(id, null, new Object[values.length], values, changed);
    }

    @Test
    void aNumberThatIsGivenAnewAfterABackendCrashedProvesNothing()
            throws SQLException, IOException, InterruptedException {
        try (PrivateCluster cluster = PrivateCluster.start()) {
            cluster.execute("postgres", "CREATE TABLE hut (code text PRIMARY KEY, beds integer); CHECKPOINT");
            Target target = target(system(cluster, "postgres"), "code", "beds");
            List<Change> changes = new ArrayList<>();
            for (int i = 0; i < 20; i++) {
                changes.add(insert(null, "H-" + i, 8L));
            }
            Unit unit = target.begin(UNIT);
            assertThat(Applied.with(target, unit, changes)).allMatch(Answer.Done.class::isInstance);
            Token token = unit.token();
            killABackend(cluster);
            long ours = Long.parseLong(token.text().split(" ")[3]);
            long theirs = 0;
            while (theirs < ours) {
                theirs = Long.parseLong(cluster.query("postgres", "SELECT pg_current_xact_id()"));
            }
            assertThat(theirs).as("the number was given anew").isEqualTo(ours);
            Target again = target(system(cluster, "postgres"), "code", "beds");
            assertThat(settle(again, token, changes)).isInstanceOf(Settlement.RolledBack.class);
            assertThat(cluster.query("postgres", "SELECT count(*) FROM hut")).isEqualTo("0");
        }
    }

    private static void killABackend(PrivateCluster cluster) throws SQLException, IOException, InterruptedException {
        try (Connection victim = cluster.connect("postgres")) {
            var row = victim.createStatement().executeQuery("SELECT pg_backend_pid()");
            row.next();
            new ProcessBuilder("kill", "-9", row.getString(1)).start().waitFor();
        }
        // the server answers again when it has recovered
        Cluster.patiently().until(() -> {
            try (Connection connection = cluster.connect("postgres")) {
                return connection.isValid(1);
            } catch (SQLException e) {
                return false;
            }
        });
    }

    @Test
    void aCommitIsBelievedBesideOneWitnessOnly() {
        String database = Cluster.freshDatabase("CREATE TABLE hut (code text PRIMARY KEY, beds integer)");
        Target target = target(system(Cluster.SHARED, database), "code", "beds");
        List<Change> changes = List.of(insert(null, "H-1", 8L), insert(null, "H-2", 9L));
        Token token;
        try (Unit unit = target.begin(UNIT)) {
            Applied.with(target, unit, changes);
            token = unit.token();
            unit.commit();
        }
        List<Change> asLedger = List.of(insert("H-1", "H-1", 8L), insert("H-2", "H-2", 9L));
        assertThat(settle(target, token, asLedger)).isInstanceOf(Settlement.Committed.class);
        Cluster.SHARED.execute(database, "UPDATE hut SET beds = 1 WHERE code = 'H-1'");
        assertThat(settle(target, token, asLedger)).isInstanceOf(Settlement.Committed.class);
        Cluster.SHARED.execute(database, "DELETE FROM hut");
        assertThat(settle(target, token, asLedger)).isInstanceOf(Settlement.RolledBack.class);
    }

    @Test
    void withoutTheNumberMoreThanHalfOfTheRecordsBearWitness() {
        String database = Cluster.freshDatabase("""
                CREATE TABLE hut (id integer PRIMARY KEY, code text UNIQUE, beds integer);
                INSERT INTO hut VALUES (1, 'H-1', 8), (2, 'H-2', 8), (3, 'H-3', 8)""");
        Target target = target(system(Cluster.SHARED, database), "code", "beds");
        Change first = update(1L, 1, "H-1", 8L);
        Change second = update(2L, 1, "H-2", 9L);
        Change third = update(3L, 1, "H-3", 8L);
        assertThat(settle(target, OF_ANOTHER_TIME, List.of(first, second)))
                .as("somebody else may have written the same to one of them")
                .isInstanceOf(Settlement.RolledBack.class);
        assertThat(settle(target, OF_ANOTHER_TIME, List.of(first, second, third)))
                .isInstanceOf(Settlement.Committed.class);
    }

    @Test
    void anIdAloneBearsNoWitness() {
        String database = Cluster.freshDatabase("""
                CREATE TABLE hut (id integer PRIMARY KEY, code text UNIQUE, beds integer);
                INSERT INTO hut VALUES (17, 'THEIRS', 8)""");
        Target target = target(system(Cluster.SHARED, database), "code", "beds");
        assertThat(settle(target, OF_ANOTHER_TIME, List.of(insert(17L, "OURS", 8L))))
                .isInstanceOf(Settlement.RolledBack.class);
    }

    @Test
    void columnsWithoutEqualityAreComparedByTheirText() {
        String database = Cluster.freshDatabase("""
                CREATE EXTENSION citext;
                CREATE TABLE hut (code text PRIMARY KEY, doc json, place point, label citext, price numeric(7, 2));
                INSERT INTO hut VALUES ('H-1', '{"a": 1}', '(1,2)', 'seekogel', 24.5)""");
        Target target = target(system(Cluster.SHARED, database), "code", "doc", "place", "label", "price");
        Object[] there = {"H-1", "{\"a\": 1}", "(1,2)", "seekogel", new java.math.BigDecimal("24.5")};
        for (int field = 1; field < there.length; field++) {
            assertThat(settle(target, OF_ANOTHER_TIME, List.of(update("H-1", field, there))))
                    .as("field " + field)
                    .isInstanceOf(Settlement.Committed.class);
        }
        Object[] otherCase = there.clone();
        otherCase[3] = "Seekogel";
        assertThat(settle(target, OF_ANOTHER_TIME, List.of(update("H-1", 3, otherCase))))
                .as("a change of case alone that was undone")
                .isInstanceOf(Settlement.RolledBack.class);
        Object[] otherDocument = there.clone();
        otherDocument[1] = "{\"a\":1}";
        assertThat(settle(target, OF_ANOTHER_TIME, List.of(update("H-1", 1, otherDocument))))
                .isInstanceOf(Settlement.RolledBack.class);
    }

    @Test
    void aSessionThatItsProcessLeftBehindIsEndedByItsName() {
        String database = Cluster.freshDatabase("CREATE TABLE hut (code text PRIMARY KEY, beds integer)");
        Writes system = system(Cluster.SHARED, database);
        Target left = target(system, "code", "beds");
        Target stays = target(system, "code", "beds");
        Unit unit = left.begin(UNIT);
        Applied.with(left, unit, List.of(insert(null, "H-1", 8L)));
        String session = ((HoldsSession) left).session();
        ((EndsSessions) system).end(session.split(" ")[0] + " 0.5");
        assertThat(((HoldsSession) left).session()).isEqualTo(session);
        ((EndsSessions) system).end(session);
        assertThatThrownBy(() -> left.begin(UNIT)).isInstanceOf(CannotGoOn.class);
        assertThat(((HoldsSession) stays).session()).isNotEqualTo(session);
    }

    /** A server, or something on the way to it, ends connections that say nothing for long. */
    @Test
    void aLookAfterTheConnectionHasEndedConnectsAnew() {
        String database = Cluster.freshDatabase("CREATE TABLE hut (code text PRIMARY KEY, beds integer)");
        Writes system = system(Cluster.SHARED, database);
        assertThat(system.describe("hut").orElseThrow().fields()).hasSize(2);
        String ended = Cluster.SHARED.query(
                "postgres",
                "SELECT count(pg_terminate_backend(pid, 10000)) FROM pg_stat_activity WHERE datname = '" + database
                        + "'");
        assertThat(ended).isEqualTo("1");
        assertThat(system.describe("hut").orElseThrow().fields()).hasSize(2);
    }

    @Test
    void aDatabaseThatWasMadeAnewIsAnotherOne() {
        String database = Cluster.freshDatabase("CREATE TABLE hut (code text PRIMARY KEY, beds integer)");
        Target target = target(system(Cluster.SHARED, database), "code", "beds");
        String before = ((Identified) target).identity();
        assertThat(((Identified) target).identity()).isEqualTo(before);
        target.close();
        opened.reversed().forEach(one -> {
            try {
                one.close();
            } catch (Exception e) {
                throw new IllegalStateException(e);
            }
        });
        Cluster.SHARED.execute("postgres", "DROP DATABASE " + database);
        Cluster.SHARED.execute("postgres", "CREATE DATABASE " + database);
        Cluster.SHARED.execute(database, "CREATE TABLE hut (code text PRIMARY KEY, beds integer)");
        Target again = target(system(Cluster.SHARED, database), "code", "beds");
        assertThat(((Identified) again).identity()).isNotEqualTo(before);
    }

    @Test
    void aHungConnectionIsEndedFromOutside() throws InterruptedException {
        String database = Cluster.freshDatabase("CREATE TABLE hut (code text PRIMARY KEY, beds integer)");
        Writes system = system(Cluster.SHARED, database);
        Target blocks = target(system, "code", "beds");
        Target waits = target(system, "code", "beds");
        Unit holding = blocks.begin(UNIT);
        Applied.with(blocks, holding, List.of(insert(null, "H-1", 8L)));
        List<Throwable> failures = new ArrayList<>();
        Thread thread = Thread.ofPlatform().start(() -> {
            try (Unit unit = waits.begin(UNIT)) {
                Applied.with(waits, unit, List.of(insert(null, "H-1", 8L)));
            } catch (CannotGoOn e) {
                failures.add(e);
            }
        });
        Cluster.patiently()
                .until(() -> !Cluster.SHARED
                        .query(
                                database,
                                "SELECT count(*) FROM pg_stat_activity"
                                        + " WHERE datname = current_database() AND wait_event_type = 'Lock'")
                        .equals("0"));
        waits.abort();
        thread.join();
        assertThat(failures).hasSize(1);
        assertThat(((CannotGoOn) failures.getFirst()).isTemporary()).isTrue();
    }
}
