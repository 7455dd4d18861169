package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.contract.target.Applied;
import dev.nachlauf.contract.target.Matches;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.Unit;
import dev.nachlauf.core.system.Target.UnitId;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.function.LongFunction;
import java.util.stream.LongStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Whatever question finds the records of a batch, it finds them all, and no others. */
class PostgresqlSearchTest {
    private static final int KEYS = 1_000;
    private static final UnitId UNIT = new UnitId("1", 1, 0);

    private final List<AutoCloseable> opened = new ArrayList<>();
    private String database;

    @AfterEach
    void close() throws Exception {
        for (AutoCloseable one : opened.reversed()) {
            one.close();
        }
    }

    private Target open(String schema, TargetUse use) {
        database = Cluster.freshDatabase(schema);
        return target(use);
    }

    private Target target(TargetUse use) {
        Writes system = Cluster.system(database);
        opened.add(system);
        Target target = system.target(system.describe("hut").orElseThrow(), use);
        opened.add(target);
        return target;
    }

    private static TargetUse use(String key, String... more) {
        List<String> keys = List.of(key.split(" "));
        List<String> fields = new ArrayList<>(keys);
        fields.addAll(List.of(more));
        return new TargetUse(keys, fields);
    }

    private static TargetUse inserting(TargetUse use) {
        return new TargetUse(use.key(), use.fields(), true);
    }

    private static List<Object[]> keys(LongFunction<Object[]> key) {
        return LongStream.rangeClosed(1, KEYS).mapToObj(key).toList();
    }

    private static List<Integer> found(Target target, List<Object[]> keys, int width) {
        Matches matches = Matches.findRows(target, keys, width);
        List<Integer> counts = new ArrayList<>();
        for (int i = 0; i < keys.size(); i++) {
            counts.add(matches.matches(i));
            if (matches.matches(i) == 1) {
                assertThat(matches.record(i).value(0)).isEqualTo(keys.get(i)[0]);
            }
        }
        return counts;
    }

    /** Every second key is there. With the dense table a stretch of the index holds them, with the other one it is too long. */
    @ParameterizedTest
    @CsvSource({"C, 1", "C, 40", "de-x-icu, 1", "de-x-icu, 40"})
    void everySecondKeyIsFoundWhateverStandsBetween(String collation, int between) {
        Target target = open(
                "CREATE TABLE hut (code text COLLATE \"" + collation + "\" PRIMARY KEY, name text);"
                        + "INSERT INTO hut SELECT 'H-' || n, 'Hut' FROM generate_series(2, 1000, 2) n;"
                        + "INSERT INTO hut SELECT 'h-' || n || '-' || m, 'Other' FROM generate_series(1, 1000) n,"
                        + " generate_series(1, " + between + ") m",
                use("code", "name"));
        List<Object[]> keys = new ArrayList<>(keys(n -> new Object[] {"H-" + n}));
        for (int round = 0; round < 3; round++) {
            List<Integer> found = found(target, keys, 2);
            for (int i = 0; i < KEYS; i++) {
                int number = Integer.parseInt(((String) keys.get(i)[0]).substring(2));
                assertThat(found.get(i)).as("key %s", number).isEqualTo(number % 2 == 0 ? 1 : 0);
            }
            Collections.shuffle(keys, new Random(round));
        }
    }

    @Test
    void keysOfSeveralPartsAreFoundByAllOfThem() {
        Target target = open(
                "CREATE TABLE hut (valley text, number integer, name text, PRIMARY KEY (valley, number));"
                        + "INSERT INTO hut SELECT 'V-' || n % 7, n - 500, 'Hut' FROM generate_series(1, 900) n",
                use("valley number", "name"));
        List<Integer> found = found(target, keys(n -> new Object[] {"V-" + n % 7, n - 500}), 3);
        assertThat(found.subList(0, 900)).containsOnly(1);
        assertThat(found.subList(900, KEYS)).containsOnly(0);
    }

    @Test
    void numbersAreFoundWhateverDecimalsTheyShow() {
        Target target = open(
                "CREATE TABLE hut (code numeric PRIMARY KEY, name text);"
                        + "INSERT INTO hut SELECT n + 0.50, 'Hut' FROM generate_series(1, 1000) n",
                use("code", "name"));
        List<Object[]> keys = keys(n -> new Object[] {BigDecimal.valueOf(n * 10 + 5, 1)});
        assertThat(Matches.findRows(target, keys, 2).matches(999)).isEqualTo(1);
        assertThat(Matches.findRows(target, keys, 2).record(3).value(0)).isEqualTo(new BigDecimal("4.50"));
    }

    @Test
    void aKeyThatIsNotUniqueFindsSeveral() {
        Target target = open(
                "CREATE TABLE hut (id integer PRIMARY KEY, code text, name text); CREATE INDEX ON hut (code);"
                        + "INSERT INTO hut SELECT n, 'H-' || n / 2, 'Hut' FROM generate_series(2, 2001) n",
                use("code", "name"));
        assertThat(found(target, keys(n -> new Object[] {"H-" + n}), 2)).containsOnly(2);
    }

    /** An empty table isn't asked; what somebody else inserts meanwhile is found as soon as it is in the way. */
    @Test
    void anEmptyTableIsAskedAgainOnceItRefusesAKey() {
        Target target = open("CREATE TABLE hut (code text PRIMARY KEY, name text)", inserting(use("code", "name")));
        List<Object[]> keys = keys(n -> new Object[] {"H-" + n});
        assertThat(found(target, keys, 2)).containsOnly(0);
        Cluster.SHARED.execute(database, "INSERT INTO hut VALUES ('H-7', 'Theirs')");
        try (Unit unit = target.begin(UNIT)) {
            List<Answer> answers = Applied.with(
                    target,
                    unit,
                    List.of(
                            new Change.Insert(null, new Object[] {"H-7", "Ours"}),
                            new Change.Insert(null, new Object[] {"H-8", "Ours"})));
            assertThat(answers.get(0)).isInstanceOf(Answer.Moved.class);
            assertThat(answers.get(1)).isInstanceOf(Answer.Done.class);
            unit.commit();
        }
        List<Integer> found = found(target, keys, 2);
        assertThat(found.get(6)).isEqualTo(1);
        assertThat(found.get(7)).isEqualTo(1);
        assertThat(found.stream().mapToInt(Integer::intValue).sum()).isEqualTo(2);
    }

    /** Who inserts nothing hears of no refusal: where it is empty once, it may be filled by the next batch. */
    @Test
    void anEmptyTableIsAskedAgainByWhoOnlyUpdates() {
        Target target = open("CREATE TABLE hut (code text PRIMARY KEY, name text)", use("code", "name"));
        List<Object[]> keys = keys(n -> new Object[] {"H-" + n});
        assertThat(found(target, keys, 2)).containsOnly(0);
        Cluster.SHARED.execute(database, "INSERT INTO hut SELECT 'H-' || n, 'Theirs' FROM generate_series(1, 1000) n");
        assertThat(found(target, keys, 2)).containsOnly(1);
    }

    /** A file that names an unknown parent is asked about its parents beforehand; each answer holds for the next batch. */
    @Test
    void parentsAreAskedForOnceAndMissingOnesAgain() {
        Target target = open(
                "CREATE TABLE valley (code text PRIMARY KEY); INSERT INTO valley VALUES ('EAST'), ('WEST');"
                        + "CREATE TABLE hut (code text PRIMARY KEY, valley text REFERENCES valley)",
                use("code", "valley"));
        assertThat(insert(target, "H-1", "EAST", "NOWHERE", "WEST")).containsExactly(true, false, true);
        assertThat(insert(target, "H-2", "NOWHERE", "EAST", "NOWHERE")).containsExactly(false, true, false);
        Cluster.SHARED.execute(database, "INSERT INTO valley VALUES ('NOWHERE')");
        assertThat(insert(target, "H-3", "NOWHERE", "EAST")).containsExactly(true, true);
        Cluster.SHARED.execute(
                database, "DELETE FROM hut WHERE valley = 'WEST'; DELETE FROM valley WHERE code = 'WEST'");
        assertThat(insert(target, "H-4", "WEST", "EAST"))
                .as("a parent that vanished is refused by the table itself")
                .containsExactly(false, true);
        assertThat(Cluster.SHARED.query(database, "SELECT string_agg(code, ' ' ORDER BY code) FROM hut"))
                .isEqualTo("H-1-0 H-2-1 H-3-0 H-3-1 H-4-1");
    }

    private static List<Boolean> insert(Target target, String prefix, String... valleys) {
        List<Change> changes = new ArrayList<>();
        for (String valley : valleys) {
            changes.add(new Change.Insert(null, new Object[] {prefix + "-" + changes.size(), valley}));
        }
        try (Unit unit = target.begin(UNIT)) {
            List<Answer> answers = Applied.with(target, unit, changes);
            unit.commit();
            answers.stream()
                    .filter(Answer.Refused.class::isInstance)
                    .forEach(refused -> assertThat(((Answer.Refused) refused)
                                    .problems()
                                    .getFirst()
                                    .code())
                            .isEqualTo(ProblemCode.REFERENCE_MISSING));
            return answers.stream().map(Answer.Done.class::isInstance).toList();
        }
    }
}
