package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.contract.target.Applied;
import dev.nachlauf.contract.target.Matches;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ComparesKeys;
import dev.nachlauf.core.system.FindsAlike;
import dev.nachlauf.core.system.Respells;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.Unit;
import dev.nachlauf.core.system.Target.UnitId;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** Tables that respell what they are given, refuse rows in unusual ways, or compare keys in their own way. */
class PostgresqlSpellingTest {
    private String database;
    private Writes system;
    private Target target;

    private void open(String sql, TargetUse use) {
        database = Cluster.freshDatabase(sql);
        system = Cluster.system(database);
        target = system.target(system.describe("hut").orElseThrow(), use);
    }

    @AfterEach
    void close() {
        target.close();
        system.close();
    }

    private static TargetUse use(String key, String... others) {
        List<String> fields = new ArrayList<>(List.of(key));
        fields.addAll(List.of(others));
        return new TargetUse(List.of(key), fields);
    }

    private List<Answer> insert(List<Object[]> rows) {
        List<Change> changes = new ArrayList<>();
        for (Object[] row : rows) {
            changes.add(new Change.Insert(null, row));
        }
        try (Unit unit = target.begin(new UnitId("1", 1, 0))) {
            List<Answer> answers = Applied.with(target, unit, changes);
            unit.commit();
            return answers;
        }
    }

    private Matches.One stored(TargetUse use, Object key) {
        return Matches.findRows(
                        target,
                        List.<Object[]>of(new Object[] {key}),
                        use.fields().size())
                .record(0);
    }

    /** Values as the table would spell them. */
    private List<Object[]> respelled(List<Object[]> rows) {
        List<CellCodec> codecs = target.cells().fields();
        RowBlock.Builder block = new RowBlock.Builder(codecs.size(), rows.size());
        for (Object[] row : rows) {
            for (int field = 0; field < row.length; field++) {
                block.add(row[field], codecs.get(field));
            }
        }
        RowBlock own = ((Respells) target)
                .respelled(block.build(), IntStream.range(0, rows.size()).toArray());
        List<Object[]> values = new ArrayList<>();
        for (int row = 0; row < rows.size(); row++) {
            Object[] one = new Object[codecs.size()];
            for (int field = 0; field < one.length; field++) {
                one[field] = own.value(row, field, codecs.get(field));
            }
            values.add(one);
        }
        return values;
    }

    private String asked(String sql) {
        return Cluster.SHARED.query(database, sql);
    }

    private static List<Boolean> written(List<Answer> answers) {
        return answers.stream().map(Answer.Done.class::isInstance).toList();
    }

    @Test
    void keysThatTheTableRespellsAreAnsweredAsWritten() {
        open("CREATE TABLE hut (code uuid PRIMARY KEY, name text)", use("code", "name"));
        List<Object[]> rows = IntStream.range(0, 100)
                .mapToObj(i -> new Object[] {"ABCDEF00-0000-4000-8000-" + String.format("%012d", i), "Hut " + i})
                .toList();
        assertThat(written(insert(rows))).hasSize(100).containsOnly(true);
        assertThat(asked("SELECT count(*) FROM hut")).isEqualTo("100");
    }

    @Test
    void theEndOfADayIsReadAndComesBackAsItWas() {
        TargetUse use = use("code", "closes");
        open("CREATE TABLE hut (code text PRIMARY KEY, closes time); INSERT INTO hut VALUES ('H-1', '24:00')", use);
        Object closes = stored(use, "H-1").value(1);
        assertThat(written(insert(List.<Object[]>of(new Object[] {"H-2", closes}))))
                .containsExactly(true);
        assertThat(asked("SELECT closes FROM hut WHERE code = 'H-2'")).isEqualTo("24:00:00");
    }

    @Test
    void keysThatATriggerTrimsAreAnsweredAsWrittenAndThoseThatItSwallowsAreNot() {
        open("""
                CREATE TABLE hut (code text PRIMARY KEY, name text);
                CREATE FUNCTION tidy() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
                  IF NEW.name = 'none' THEN RETURN NULL; END IF;
                  NEW.code := trim(NEW.code); RETURN NEW; END $$;
                CREATE TRIGGER tidy BEFORE INSERT ON hut FOR EACH ROW EXECUTE FUNCTION tidy();""", use("code", "name"));
        List<Object[]> rows = IntStream.range(0, 50)
                .mapToObj(i -> new Object[] {" H-" + i + " ", i % 7 == 3 ? "none" : "Hut"})
                .toList();
        List<Boolean> expected =
                IntStream.range(0, 50).mapToObj(i -> i % 7 != 3).toList();
        List<Answer> answers = insert(rows);
        assertThat(written(answers)).isEqualTo(expected);
        assertThat(((Answer.Done) answers.get(18)).stored()).containsExactly("H-18", "Hut");
        assertThat(asked("SELECT count(*) FROM hut")).isEqualTo("43");
    }

    @Test
    void aRowThatTheServerCantHoldIsRefusedAndTheOthersAreWritten() {
        open("CREATE TABLE hut (code text PRIMARY KEY, name text UNIQUE)", use("code", "name"));
        StringBuilder large = new StringBuilder();
        java.util.Random random = new java.util.Random(17);
        random.ints(20_000, 0x4E00, 0x9FA5).forEach(large::appendCodePoint);
        List<Answer> answers = insert(
                List.of(new Object[] {"H-1", "a"}, new Object[] {"H-2", large.toString()}, new Object[] {"H-3", "c"}));
        assertThat(written(answers)).containsExactly(true, false, true);
        assertThat(((Answer.Refused) answers.get(1)).problems().getFirst().code())
                .isEqualTo(ProblemCode.REFUSED_BY_TARGET);
    }

    @Test
    void aRowThatRowSecurityForbidsIsRefusedAndAMissingRightEndsTheRun() {
        open("CREATE TABLE hut (code text PRIMARY KEY, name text)", use("code", "name"));
        target.close();
        Cluster.SHARED.execute(database, """
                DO $$ BEGIN CREATE ROLE warden LOGIN; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
                ALTER TABLE hut ENABLE ROW LEVEL SECURITY;
                CREATE POLICY own ON hut USING (true) WITH CHECK (name <> 'secret');
                GRANT SELECT, INSERT, UPDATE ON hut TO warden;""");
        Writes theirs = Cluster.system(Cluster.SHARED, database, "warden");
        target = theirs.target(theirs.describe("hut").orElseThrow(), use("code", "name"));
        List<Answer> answers =
                insert(List.of(new Object[] {"H-1", "a"}, new Object[] {"H-2", "secret"}, new Object[] {"H-3", "c"}));
        assertThat(written(answers)).containsExactly(true, false, true);
        Cluster.SHARED.execute(database, "REVOKE INSERT ON hut FROM warden");
        assertThat(org.assertj.core.api.Assertions.catchThrowableOfType(
                                dev.nachlauf.core.problem.CannotGoOn.class,
                                () -> insert(List.<Object[]>of(new Object[] {"H-4", "a"}, new Object[] {"H-5", "b"})))
                        .problems())
                .extracting(problem -> problem.code())
                .containsExactly(ProblemCode.NOT_PERMITTED);
        theirs.close();
    }

    @Test
    void aCheckWhoseExpressionFailsOverALaterRowRefusesThatRowOnly() {
        TargetUse use = use("code", "beds", "rooms");
        open(
                "CREATE TABLE hut (code text PRIMARY KEY, beds integer, rooms integer, CONSTRAINT dense CHECK (beds / rooms < 10))",
                use);
        assertThat(written(insert(List.of(new Object[] {"H-1", 8L, 2L}, new Object[] {"H-2", 80L, 2L}))))
                .containsExactly(true, false);
        // the constraint is asked beforehand from now on, and its own expression fails over this row
        assertThat(written(insert(List.of(new Object[] {"H-3", 8L, 0L}, new Object[] {"H-4", 8L, 2L}))))
                .containsExactly(false, true);
    }

    @Test
    void valuesInAnotherSpellingEqualWhatIsStored() {
        TargetUse use = use("code", "doc", "id", "address", "span", "marks", "share", "tag");
        open("""
                CREATE TABLE hut (code text PRIMARY KEY, doc jsonb, id uuid, address inet, span interval, marks integer[],
                    share double precision, tag char(4))""", use);
        Object[] row = {
            "H-1",
            "{\"b\":1,  \"a\":2}",
            "ABCDEF00-0000-4000-8000-000000000001",
            "10.0.0.1/32",
            "90 minutes",
            "{1, 2}",
            new BigDecimal("0.12345678901234567890"),
            "A "
        };
        assertThat(written(insert(List.<Object[]>of(row)))).containsExactly(true);
        Object[] spelled = respelled(List.<Object[]>of(row)).getFirst();
        Matches.One stored = stored(use, "H-1");
        for (int field = 0; field < row.length; field++) {
            assertThat(stored.same(field, spelled[field]))
                    .as(use.fields().get(field))
                    .isTrue();
        }
        assertThat(spelled[1]).isEqualTo("{\"a\": 2, \"b\": 1}");
        assertThat(spelled[4]).isEqualTo("01:30:00");
        Object[] broken = row.clone();
        broken[1] = "{no document";
        List<Object[]> both = respelled(List.of(row, broken));
        assertThat(both.get(1)[1]).isEqualTo("{no document");
        assertThat(both.get(1)[2]).isEqualTo("abcdef00-0000-4000-8000-000000000001");
    }

    @Test
    void anUpdateLeavesOtherFieldsAsTheyAreToTheLastDigit() {
        TargetUse use = use("code", "share", "total", "name");
        open("""
                CREATE TABLE hut (code text PRIMARY KEY, share double precision, total numeric, name text);
                INSERT INTO hut VALUES ('H-1', 0.1::float8 + 0.2::float8, 'NaN', 'old'), ('H-2', 1, 2, 'old');""", use);
        List<Change> changes = new ArrayList<>();
        for (String code : List.of("H-1", "H-2")) {
            Matches.One record = stored(use, code);
            BitSet changed = new BitSet();
            changed.set(3);
            Object[] before = {code, record.value(1), record.value(2), "old"};
            Object[] after = {code, record.value(1), record.value(2), "new"};
            if (code.equals("H-2")) {
                after[2] = new BigDecimal("3");
                changed.set(2);
            }
            changes.add(new Change.Update(record.id(), record.mark(), before, after, changed));
        }
        try (Unit unit = target.begin(new UnitId("1", 1, 0))) {
            assertThat(written(Applied.with(target, unit, changes))).containsExactly(true, true);
            unit.commit();
        }
        assertThat(asked("SELECT string_agg(concat_ws(' ', share, total, name), ', ' ORDER BY code) FROM hut"))
                .isEqualTo("0.30000000000000004 NaN new, 1 3 new");
    }

    @Test
    void keysAreEqualTheTablesWay() {
        open("CREATE EXTENSION citext; CREATE TABLE hut (code citext PRIMARY KEY, name text)", use("code", "name"));
        ComparesKeys keys = (ComparesKeys) target;
        assertThat(keys.hasOwnEquality()).isTrue();
        List<Long> first = keys.classes(List.of(new Object[] {"h-1"}, new Object[] {"H-2"}));
        List<Long> second = keys.classes(List.of(new Object[] {"H-1"}, new Object[] {"H-3"}, new Object[] {"h-2"}));
        assertThat(second.get(0)).isEqualTo(first.get(0));
        assertThat(second.get(2)).isEqualTo(first.get(1));
        assertThat(second.get(1)).isNotIn(first);
    }

    @Test
    void ordinaryKeysAreComparedByTheirValues() {
        open("CREATE TABLE hut (code text PRIMARY KEY, name text)", use("code", "name"));
        assertThat(((ComparesKeys) target).hasOwnEquality()).isFalse();
    }

    @Test
    void aValueThatTheTableCannotTakeIsLikeNothingAndHidesNoOther() {
        String known = "0b6c9ed8-1f0f-4d0c-8f6b-0f4b7f4f3f51";
        open("CREATE TABLE hut (code text PRIMARY KEY, name text, mark uuid)", use("code", "name", "mark"));
        insert(List.<Object[]>of(new Object[] {"H-1", "Larch", known}));
        ChangeSet rows = ChangeSet.of(
                target.cells(),
                List.of(
                        new Change.Insert(null, new Object[] {"H-7", "Larch", "no mark at all"}),
                        new Change.Insert(null, new Object[] {"H-8", "Larch", known.toUpperCase(Locale.ROOT)}),
                        new Change.Insert(null, new Object[] {"H-9", "Fern", known})));
        List<String> alike = new ArrayList<>();
        ((FindsAlike) target)
                .alike(
                        rows,
                        new int[] {0, 1, 2},
                        new int[] {1, 2},
                        (row, record) -> alike.add(row + " " + record.value(0)));
        assertThat(alike).containsExactly("1 H-1");
    }
}
