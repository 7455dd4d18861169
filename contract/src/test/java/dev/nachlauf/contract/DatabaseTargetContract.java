package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.awaitility.Awaitility.await;

import dev.nachlauf.contract.target.Applied;
import dev.nachlauf.contract.target.AtomicTargetContract;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.FindsAlike;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.Settlement;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.system.Target.Unit;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** What every database does with its constraints, its others and its crashes, beyond what every target does. */
abstract class DatabaseTargetContract extends AtomicTargetContract {
    protected String database;

    /** A fresh database whose table {@code hut} has ids of its own and a check that beds are not negative. */
    protected abstract String fresh();

    protected abstract Writes system(String name);

    /** Runs a statement past the connector. */
    protected abstract void run(String sql);

    /** The first column of the first row. */
    protected abstract String asked(String sql);

    /** A connection past the connector. */
    protected abstract Connection connect() throws SQLException;

    /** How many sessions of the server wait for a lock. */
    protected abstract String waiting();

    /** Sees to it that of two sessions that wait for each other the connector's is given up. */
    protected abstract void letTheOthersWin(Connection others) throws SQLException;

    /** Has a session insert children without their parents. */
    protected abstract String unchecked();

    /** A token of a transaction of which the server knows nothing any more. */
    protected abstract Token forgotten();

    @Override
    protected Writes open() {
        database = fresh();
        return system(database);
    }

    @Override
    protected void changeElsewhere(String hutCode, long beds) {
        run("UPDATE hut SET beds = " + beds + " WHERE hut_code = '" + hutCode + "'");
    }

    @Override
    protected long count() {
        return Long.parseLong(asked("SELECT count(*) FROM hut"));
    }

    /** Opens the target again after its table was changed. */
    protected void reopen(String... statements) {
        List.of(statements).forEach(this::run);
        target.close();
        target = system.target(system.describe("hut").orElseThrow(), USE);
    }

    /** A target of another table. */
    protected Target target(String records, List<String> key, List<String> fields) {
        return system.target(system.describe(records).orElseThrow(), new TargetUse(key, fields));
    }

    protected Settlement settle(Token token, Change... changes) {
        return target.settle(token, ChangeSet.of(target.cells(), List.of(changes)));
    }

    protected static ProblemCode code(Answer answer) {
        return ((Answer.Refused) answer).problems().getFirst().code();
    }

    @Test
    void findsAllOffendersOfAConstraintAtOnceAndWritesTheRest() {
        try (Unit unit = target.begin(UNIT)) {
            List<Answer> answers = apply(
                    unit,
                    List.of(
                            insert(hut("H-001", 8L)),
                            insert(hut("H-002", -1L)),
                            insert(hut("H-003", 8L)),
                            insert(hut("H-004", -2L))));
            assertThat(answers.get(0)).isInstanceOf(Answer.Done.class);
            assertThat(answers.get(2)).isInstanceOf(Answer.Done.class);
            assertThat(code(answers.get(1))).isEqualTo(ProblemCode.CHECK_FAILED);
            assertThat(code(answers.get(3))).isEqualTo(ProblemCode.CHECK_FAILED);
            Problem problem = ((Answer.Refused) answers.get(3)).problems().getFirst();
            assertThat(problem.place()).isEqualTo(new Place.InField("beds", "-2"));
            unit.commit();
        }
        assertThat(count()).isEqualTo(2);
    }

    @Test
    void aKeyThatSomebodyInsertedSinceIsMoved() {
        assertThat(find("H-001").matches(0)).isZero();
        run("INSERT INTO hut (hut_code, name) VALUES ('H-001', 'Theirs')");
        try (Unit unit = target.begin(UNIT)) {
            List<Answer> answers = apply(unit, List.of(insert(hut("H-001", 8L)), insert(hut("H-002", 8L))));
            assertThat(answers.get(0)).isInstanceOf(Answer.Moved.class);
            assertThat(answers.get(1)).isInstanceOf(Answer.Done.class);
            unit.commit();
        }
        assertThat(asked("SELECT name FROM hut WHERE hut_code = 'H-001'")).isEqualTo("Theirs");
    }

    @Test
    void aTransactionUnderWayIsEndedAndSettledAsRolledBack() {
        Target other = system(database).target(system.describe("hut").orElseThrow(), USE);
        Unit unit = other.begin(UNIT);
        Change change = new Change.Insert(17L, hut("H-001", 8L));
        Applied.with(other, unit, List.of(change));
        Token token = unit.token();
        assertThat(settle(token, change)).isInstanceOf(Settlement.NotYet.class);
        Settlement later = settle(token, change);
        for (int i = 0; i < 10_000 && later instanceof Settlement.NotYet; i++) {
            later = settle(token, change);
        }
        assertThat(later).isInstanceOf(Settlement.RolledBack.class);
        assertThat(count()).isZero();
        other.close();
    }

    @Test
    void whoIsGivenUpInADeadlockTriesAgainAndWrites() throws Exception {
        load(hut("H-001", 8L), hut("H-002", 8L));
        Change first = update(find("H-001").record(0), hut("H-001", 9L), 2);
        Change second = update(find("H-002").record(0), hut("H-002", 9L), 2);
        try (Connection others = connect();
                Statement theirs = others.createStatement();
                ExecutorService hand = Executors.newSingleThreadExecutor()) {
            letTheOthersWin(others);
            others.setAutoCommit(false);
            theirs.executeUpdate("UPDATE hut SET beds = 1 WHERE hut_code = 'H-002'");
            Future<?> ours = hand.submit(() -> {
                try (Unit unit = target.begin(UNIT)) {
                    apply(unit, List.of(first));
                    apply(unit, List.of(second));
                }
            });
            await().until(() -> asked(waiting()).equals("1"));
            theirs.executeUpdate("UPDATE hut SET beds = 1 WHERE hut_code = 'H-001'");
            assertThatThrownBy(ours::get)
                    .cause()
                    .isInstanceOfSatisfying(
                            CannotGoOn.class, e -> assertThat(e.isTemporary()).isTrue());
            others.rollback();
        }
        try (Unit unit = target.begin(UNIT)) {
            assertThat(apply(unit, List.of(first, second))).hasOnlyElementsOfType(Answer.Done.class);
            unit.commit();
        }
        assertThat(asked("SELECT sum(beds) FROM hut")).isEqualTo("18");
    }

    @Test
    void afterAHardStopTheRecordsThemselvesAreAsked() {
        load(hut("H-001", 8L));
        Object id = find("H-001").record(0).id();
        assertThat(settle(forgotten(), new Change.Insert(id, hut("H-001", 8L))))
                .isInstanceOf(Settlement.Committed.class);
        assertThat(settle(forgotten(), new Change.Insert(4711L, hut("H-002", 8L))))
                .isInstanceOf(Settlement.RolledBack.class);
        Change after = update(find("H-001").record(0), hut("H-001", 8L), 2);
        Change notYet = update(find("H-001").record(0), hut("H-001", 9L), 2);
        assertThat(settle(forgotten(), after)).isInstanceOf(Settlement.Committed.class);
        assertThat(settle(forgotten(), notYet)).isInstanceOf(Settlement.RolledBack.class);
    }

    /** No record that could be written equals it, so the table, of any size, needn't be read for it. */
    @Test
    void aRowWithoutItsParentIsLikeNoRecord() throws SQLException {
        try (Connection others = connect();
                Statement theirs = others.createStatement()) {
            theirs.execute("CREATE TABLE valley (code varchar(9) PRIMARY KEY)");
            theirs.execute("CREATE TABLE cabin (code varchar(9) PRIMARY KEY, valley varchar(9) NOT NULL, beds integer,"
                    + " FOREIGN KEY (valley) REFERENCES valley (code))");
            theirs.execute("INSERT INTO valley VALUES ('SRI')");
            theirs.execute(unchecked());
            theirs.execute("INSERT INTO cabin VALUES ('C-1', 'SRI', 4), ('C-2', 'OUT', 4), ('C-3', 'SRI', NULL)");
        }
        List<String> alike = new ArrayList<>();
        try (Target cabins = target("cabin", List.of("code"), List.of("code", "valley", "beds"))) {
            ChangeSet rows = ChangeSet.of(
                    cabins.cells(),
                    Stream.of(
                                    new @Nullable Object[] {"X-1", "SRI", 4L},
                                    new @Nullable Object[] {"X-2", "OUT", 4L},
                                    new @Nullable Object[] {"X-3", "SRI", null})
                            .map(values -> (Change) new Change.Insert(null, values))
                            .toList());
            ((FindsAlike) cabins)
                    .alike(
                            rows,
                            new int[] {0, 1, 2},
                            new int[] {1, 2},
                            (row, record) -> alike.add(row + " " + record.value(0)));
        }
        assertThat(alike).containsExactlyInAnyOrder("0 C-1", "2 C-3");
    }
}
