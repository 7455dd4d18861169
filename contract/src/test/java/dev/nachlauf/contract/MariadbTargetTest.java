package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.contract.mariadb.PrivateMariadb;
import dev.nachlauf.contract.target.Applied;
import dev.nachlauf.contract.target.Matches;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ComparesKeys;
import dev.nachlauf.core.system.EndsSessions;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.ForeseesRemovals;
import dev.nachlauf.core.system.HoldsRecords.RecordType;
import dev.nachlauf.core.system.HoldsSession;
import dev.nachlauf.core.system.Identified;
import dev.nachlauf.core.system.ReadsRecords;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.system.ReadsRecords.RecordQuery;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.ReservesIds;
import dev.nachlauf.core.system.Respells;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.system.Target.Unit;
import dev.nachlauf.core.system.Writes;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class MariadbTargetTest extends DatabaseTargetContract {
    private static final String[] SCHEMA = {
        "CREATE TABLE region (code varchar(4) PRIMARY KEY)", "INSERT INTO region VALUES ('SEE')", """
        CREATE TABLE hut (
            id bigint AUTO_INCREMENT PRIMARY KEY,
            hut_code varchar(8) NOT NULL UNIQUE,
            name text NOT NULL,
            beds integer CHECK (beds >= 0),
            price decimal(7, 2),
            opens date)
        """
    };

    @Override
    protected String fresh() {
        return Mariadb.freshDatabase(SCHEMA);
    }

    @Override
    protected Writes system(String name) {
        return Mariadb.system(name);
    }

    @Override
    protected void run(String sql) {
        Mariadb.SHARED.execute(database, sql);
    }

    @Override
    protected String asked(String sql) {
        return Mariadb.SHARED.query(database, sql);
    }

    @Override
    protected Connection connect() throws SQLException {
        return Mariadb.SHARED.connect(database);
    }

    @Override
    protected String waiting() {
        return "SELECT count(*) FROM information_schema.innodb_trx WHERE trx_state = 'LOCK WAIT'";
    }

    /** Who has changed less is given up, of those that have changed what can't be taken back. */
    @Override
    protected String unchecked() {
        return "SET foreign_key_checks = 0";
    }

    @Override
    protected void letTheOthersWin(Connection others) throws SQLException {
        run("CREATE TABLE weight AS SELECT seq FROM seq_1_to_1000");
        run("CREATE TABLE lasting (seq int) ENGINE = Aria TRANSACTIONAL = 0");
        others.setAutoCommit(false);
        others.createStatement().execute("UPDATE weight SET seq = seq + 1");
        others.createStatement().execute("INSERT INTO lasting VALUES (1)");
    }

    @Override
    protected Token forgotten() {
        return new Token("4711 127.0.0.1:1");
    }

    /** However large the table is: a batch must not read all of it, or a load would take the longer the more there is. */
    @Test
    void aBatchReadsOnlyTheRecordsOfItsKeys() {
        reopen(
                "INSERT INTO hut (hut_code, name, beds) SELECT concat('H-', seq), 'Hut', 1 FROM seq_1_to_100000",
                "ANALYZE TABLE hut");
        List<String> keys =
                IntStream.rangeClosed(1, 300).mapToObj(n -> "H-" + n * 300).toList();
        long before = scanned();
        Matches found = Matches.find(target, keys, FIELDS.size());
        List<Change> changes = IntStream.range(0, keys.size())
                .<Change>mapToObj(n -> update(found.record(n), hut(keys.get(n), 9L), 2))
                .toList();
        try (Unit unit = target.begin(UNIT)) {
            assertThat(apply(unit, changes)).hasSize(300).hasOnlyElementsOfType(Answer.Done.class);
            unit.commit();
        }
        assertThat(scanned() - before).isLessThan(20_000);
    }

    /** Nothing leads to a record then but reading all of them. */
    @Test
    void aTableWithoutAnyIndexIsWrittenToo() {
        run("CREATE TABLE loose (code varchar(8) NOT NULL, beds integer)");
        run("INSERT INTO loose VALUES ('a', 1), ('b', 2), ('c', 3)");
        target.close();
        target = target("loose", List.of("code"), List.of("code", "beds"));
        Matches found = Matches.find(target, List.of("a", "c", "d"), 2);
        assertThat(found.matches(2)).isZero();
        Change delete = new Change.Delete(found.record(1).id(), found.record(1).mark(), new Object[] {"c", 3L});
        try (Unit unit = target.begin(UNIT)) {
            assertThat(apply(
                            unit,
                            List.of(update(found.record(0), new Object[] {"a", 9L}, 1), delete, insert(new Object[] {
                                "d", 4L
                            }))))
                    .hasOnlyElementsOfType(Answer.Done.class);
            unit.commit();
        }
        assertThat(asked("SELECT group_concat(code, beds ORDER BY code) FROM loose"))
                .isEqualTo("a9,b2,d4");
    }

    /** How many records were met without looking for them, by all sessions. */
    private long scanned() {
        return Long.parseLong(
                asked(
                        "SELECT variable_value FROM information_schema.global_status WHERE variable_name = 'HANDLER_READ_RND_NEXT'"));
    }

    @Test
    void describesWhatTheTableDemands() {
        run("ALTER TABLE hut ADD twice int AS (beds * 2) STORED, ADD small tinyint, ADD kind enum('a', 'it''s'),"
                + " ADD region varchar(4) REFERENCES region (code), ADD prefix varchar(9), ADD UNIQUE (prefix(3))");
        RecordDescription hut = system.describe("hut").orElseThrow();
        assertThat(hut.writable()).isTrue();
        assertThat(hut.primaryKey().orElseThrow().fields()).containsExactly("id");
        assertThat(hut.isUnique(List.of("hut_code"))).isTrue();
        assertThat(hut.isUnique(List.of("prefix"))).isFalse();
        FieldDescription code = hut.field("hut_code").orElseThrow();
        assertThat(code.length()).hasValue(8);
        assertThat(code.required()).isTrue();
        FieldDescription price = hut.field("price").orElseThrow();
        assertThat(List.of(price.precision().getAsInt(), price.scale().getAsInt()))
                .containsExactly(7, 2);
        assertThat(hut.field("id").orElseThrow().required()).isFalse();
        assertThat(hut.field("small").orElseThrow().integerBytes()).hasValue(1);
        assertThat(hut.field("twice").orElseThrow().traits().closed()).isEqualTo("the database computes it");
        assertThat(hut.field("kind").orElseThrow().allowed()).containsExactly("a", "it's");
        assertThat(hut.references()).extracting(reference -> reference.parent()).containsExactly("region");
        assertThat(system.describe("nothing")).isEmpty();
    }

    @Test
    void tellsReferencesChecksAndWhatIsEmptyApart() {
        run("ALTER TABLE hut ADD region varchar(4), ADD FOREIGN KEY (region) REFERENCES region (code)");
        target.close();
        target = target("hut", List.of("hut_code"), List.of("hut_code", "name", "beds", "region"));
        try (Unit unit = target.begin(UNIT)) {
            List<Answer> answers = apply(
                    unit,
                    List.of(
                            insert(new Object[] {"H-1", "one", 8L, "SEE"}),
                            insert(new Object[] {"H-2", "two", -1L, "SEE"}),
                            insert(new Object[] {"H-3", "three", 8L, "NO"}),
                            insert(new Object[] {"H-4", null, 8L, null}),
                            insert(new Object[] {"H-5", "five", -2L, "NO"})));
            assertThat(answers.getFirst()).isInstanceOf(Answer.Done.class);
            assertThat(code(answers.get(1))).isEqualTo(ProblemCode.CHECK_FAILED);
            assertThat(code(answers.get(2))).isEqualTo(ProblemCode.REFERENCE_MISSING);
            assertThat(code(answers.get(3))).isEqualTo(ProblemCode.REQUIRED_EMPTY);
            assertThat(((Answer.Refused) answers.get(4)).problems())
                    .extracting(Problem::code)
                    .containsExactly(ProblemCode.REFERENCE_MISSING, ProblemCode.CHECK_FAILED);
            assertThat(((Answer.Refused) answers.get(1)).problems().getFirst().place())
                    .isEqualTo(new Place.InField("beds", "-1"));
            unit.commit();
        }
        assertThat(count()).isEqualTo(1);
        // what has refused before is asked first
        try (Unit unit = target.begin(UNIT)) {
            assertThat(code(apply(unit, List.of(insert(new Object[] {"H-6", "six", 1L, "NO"})))
                            .getFirst()))
                    .isEqualTo(ProblemCode.REFERENCE_MISSING);
        }
    }

    @Test
    void aValueThatItsColumnCannotTakeIsRefusedAlone() {
        reopen("ALTER TABLE hut MODIFY beds int unsigned");
        try (Unit unit = target.begin(UNIT)) {
            List<Answer> answers =
                    apply(unit, List.of(insert(hut("H-001", 8L)), insert(hut("H-002", -1L)), insert(hut("H-003", 3L))));
            assertThat(answers.get(0)).isInstanceOf(Answer.Done.class);
            assertThat(answers.get(2)).isInstanceOf(Answer.Done.class);
            Problem problem = ((Answer.Refused) answers.get(1)).problems().getFirst();
            assertThat(problem.code()).isEqualTo(ProblemCode.REFUSED_BY_TARGET);
            assertThat(problem.place()).isEqualTo(new Place.InField("beds", null));
            assertThat(problem.sentence()).contains("22003").doesNotContain("-1");
            unit.commit();
        }
        assertThat(count()).isEqualTo(2);
    }

    @Test
    void idsGoOnBehindTheCounterWhateverItsSteps() {
        load(hut("H-001", 8L), hut("H-002", 8L));
        assertThat(asked("SELECT group_concat(hut_code, id ORDER BY id) FROM hut"))
                .isEqualTo("H-0011,H-0022");
        run("INSERT INTO hut (hut_code, name) VALUES ('THEIRS', 'x')");
        load(hut("H-003", 8L));
        assertThat(asked("SELECT group_concat(hut_code, id ORDER BY id) FROM hut"))
                .isEqualTo("H-0011,H-0022,THEIRS3,H-0034");
    }

    @Test
    void anIdThatSomebodyElseGotFirstIsGivenAnew() {
        Change.Insert mine = insert(hut("H-001", 8L));
        ChangeSet set = ChangeSet.of(target.cells(), List.of(mine));
        ((ReservesIds) target).reserve(set, new int[] {0});
        run("INSERT INTO hut (hut_code, name) VALUES ('THEIRS', 'x')");
        assertThat(set.id(0)).isEqualTo(1L);
        Change.Insert again = new Change.Insert(set.id(0), hut("H-001", 8L));
        try (Unit unit = target.begin(UNIT)) {
            assertThat(apply(unit, List.of(again)).getFirst()).isInstanceOf(Answer.Moved.class);
            assertThat(apply(unit, List.of(mine)).getFirst()).isInstanceOf(Answer.Done.class);
            unit.commit();
        }
        assertThat(asked("SELECT group_concat(hut_code, id ORDER BY id) FROM hut"))
                .isEqualTo("THEIRS1,H-0012");
    }

    @Test
    void whatATriggerRefusesOrChangesIsTold() {
        reopen("""
                CREATE TRIGGER guard BEFORE INSERT ON hut FOR EACH ROW BEGIN
                  IF NEW.hut_code = 'H-002' THEN SET NEW.beds = 5; END IF;
                  IF NEW.hut_code = 'H-003' THEN SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'no'; END IF;
                END""", "CREATE TRIGGER doubled BEFORE UPDATE ON hut FOR EACH ROW SET NEW.beds = NEW.beds * 2");
        try (Unit unit = target.begin(UNIT)) {
            List<Answer> answers =
                    apply(unit, List.of(insert(hut("H-001", 8L)), insert(hut("H-002", 8L)), insert(hut("H-003", 8L))));
            assertThat(((Answer.Done) answers.get(1)).stored()[2]).isEqualTo(5L);
            assertThat(code(answers.get(2))).isEqualTo(ProblemCode.REFUSED_BY_TARGET);
            assertThat(answers.get(0)).isInstanceOf(Answer.Done.class);
            unit.commit();
        }
        Matches.One record = find("H-001").record(0);
        try (Unit unit = target.begin(UNIT)) {
            Answer answer =
                    apply(unit, List.of(update(record, hut("H-001", 9L), 2))).getFirst();
            assertThat(((Answer.Done) answer).stored()[2]).isEqualTo(18L);
            unit.commit();
        }
    }

    @Test
    void valuesOfEveryTypeComeBackAsTheyWere() {
        run(
                "CREATE TABLE stay (stay_no char(4) PRIMARY KEY, small smallint, large bigint, huge bigint unsigned, exact decimal(30, 5),"
                        + " truth boolean, bit1 bit(1), at time(6), moment datetime(6), zoned timestamp(6) NULL, mood enum('calm', 'storm'),"
                        + " doc json, code uuid, fraction double, latin varchar(20) CHARACTER SET latin1, years year)");
        List<String> fields = List.of(
                "stay_no",
                "small",
                "large",
                "huge",
                "exact",
                "truth",
                "bit1",
                "at",
                "moment",
                "zoned",
                "mood",
                "doc",
                "code",
                "fraction",
                "latin",
                "years");
        Object[] values = {
            "S1",
            -3L,
            9_000_000_000L,
            new BigDecimal("18446744073709551615"),
            new BigDecimal("-1234567890123456789012345.00123"),
            true,
            false,
            LocalTime.of(7, 30, 0, 123_456_000),
            LocalDateTime.of(1999, 12, 31, 23, 59, 59, 123_456_000),
            LocalDateTime.of(2026, 5, 1, 12, 0),
            "storm",
            "{\"a\": 1}",
            "00000000-0000-0000-0000-000000000017",
            new BigDecimal("0.5"),
            "Föhrenstein",
            2026L
        };
        try (Target stays = target("stay", List.of("stay_no"), fields)) {
            try (Unit unit = stays.begin(UNIT)) {
                assertThat(Applied.with(stays, unit, List.of(new Change.Insert(null, values))))
                        .allMatch(Answer.Done.class::isInstance);
                unit.commit();
            }
            Matches stored = Matches.findRows(stays, List.<Object[]>of(new Object[] {"S1"}), fields.size());
            assertThat(stored.matches(0)).isEqualTo(1);
            for (int i = 0; i < values.length; i++) {
                assertThat(stored.record(0).same(i, values[i]))
                        .as(fields.get(i) + " " + stored.record(0).value(i))
                        .isTrue();
            }
            assertThat(stored.record(0).id()).isEqualTo("S1");
        }
        try (RecordCursor read =
                ((ReadsRecords) system).read(new RecordQuery.Records("stay", List.of("moment", "zoned")))) {
            assertThat(read.next()).as("whoever reads sees the same moments").containsExactly(values[8], values[9]);
        }
    }

    @Test
    void comparesInTheSpellingOfTheColumns() {
        run("CREATE TABLE gauge (no int PRIMARY KEY, at datetime, mood enum('calm', 'storm'), level float)");
        List<String> fields = List.of("no", "at", "mood", "level");
        try (Target gauges = target("gauge", List.of("no"), fields)) {
            Object[] sent = {1L, LocalDateTime.of(2026, 5, 1, 12, 0, 0, 700_000_000), "STORM", new BigDecimal("0.1")};
            Object[] odd = {2L, null, "fog", null};
            RowBlock.Builder rows = new RowBlock.Builder(fields.size(), 2);
            for (Object[] row : List.of(sent, odd)) {
                for (int i = 0; i < row.length; i++) {
                    rows.add(row[i], gauges.cells().fields().get(i));
                }
            }
            RowBlock own = ((Respells) gauges).respelled(rows.build(), new int[] {0, 1});
            assertThat(own.value(0, 1, gauges.cells().fields().get(1))).isEqualTo(LocalDateTime.of(2026, 5, 1, 12, 0));
            assertThat(own.value(0, 2, gauges.cells().fields().get(2))).isEqualTo("storm");
            assertThat(own.value(0, 3, gauges.cells().fields().get(3))).isEqualTo(new BigDecimal("0.1"));
            assertThat(own.value(1, 2, gauges.cells().fields().get(2)))
                    .as("what can't be taken stays as it was sent")
                    .isEqualTo("fog");
        }
    }

    @Test
    void keysAreEqualWhereTheCollationSaysSo() {
        load(hut("H-001a", 8L));
        assertThat(find("h-001A").matches(0)).isEqualTo(1);
        ComparesKeys keys = (ComparesKeys) target;
        assertThat(keys.hasOwnEquality()).isTrue();
        List<Long> classes = keys.classes(List.of(
                new Object[] {"ä-1"}, new Object[] {"b-1"}, new Object[] {"A-1"}, new Object[] {"far too long"}));
        assertThat(classes.get(0)).isEqualTo(classes.get(2)).isNotEqualTo(classes.get(1));
        assertThat(classes.get(3)).isEqualTo(ComparesKeys.NONE);
        assertThat(keys.classes(List.<Object[]>of(new Object[] {"a-1 "}))).containsExactly(classes.getFirst());
    }

    @Test
    void keysWithoutAnIndexAndOfSeveralRecordsAreFoundAtMostTwice() {
        load(hut("H-001", 8L), hut("H-002", 8L), hut("H-003", 8L), hut("H-004", 5L));
        try (Target byBeds = target("hut", List.of("beds"), List.of("beds", "hut_code"))) {
            Matches stored = Matches.find(byBeds, List.of(8L, 5L, 1L), 2);
            assertThat(List.of(stored.matches(0), stored.matches(1), stored.matches(2)))
                    .containsExactly(2, 1, 0);
        }
    }

    @Test
    void tellsWhichRecordsAreStillReferredTo() {
        run("CREATE TABLE tariff (no int PRIMARY KEY, hut varchar(8), FOREIGN KEY (hut) REFERENCES hut (hut_code))");
        load(hut("H-001", 8L), hut("H-002", 8L));
        run("INSERT INTO tariff VALUES (1, 'H-001'), (2, 'H-001')");
        Matches stored = find("H-001", "H-002");
        List<Change.Delete> deletes = List.of(
                new Change.Delete(stored.record(0).id(), stored.record(0).mark(), hut("H-001", 8L)),
                new Change.Delete(stored.record(1).id(), stored.record(1).mark(), hut("H-002", 8L)));
        ChangeSet set = ChangeSet.of(target.cells(), deletes);
        Map<Integer, List<Problem>> forbidden = ((ForeseesRemovals) target).forbidden(set, new int[] {0, 1});
        assertThat(forbidden).containsOnlyKeys(0);
        assertThat(forbidden.get(0).getFirst().sentence()).isEqualTo("2 records of tariff refer to it.");
        try (Unit unit = target.begin(UNIT)) {
            List<Answer> answers = apply(unit, deletes);
            assertThat(code(answers.get(0))).isEqualTo(ProblemCode.STILL_REFERRED_TO);
            assertThat(answers.get(1)).isInstanceOf(Answer.Done.class);
            unit.commit();
        }
        assertThat(count()).isEqualTo(1);
    }

    /** InnoDB checks a reference when the row is written, not when the statement is over. */
    @Test
    void inATableThatRefersToItselfParentsAreWrittenFirstAndRemovedLast() {
        run(
                "CREATE TABLE valley (code varchar(8) PRIMARY KEY, parent varchar(8), FOREIGN KEY (parent) REFERENCES valley (code))");
        try (Target valleys = target("valley", List.of("code"), List.of("code", "parent"))) {
            try (Unit unit = valleys.begin(UNIT)) {
                List<Answer> answers = Applied.with(
                        valleys,
                        unit,
                        List.of(
                                insert(new Object[] {"LATE", "NONE"}),
                                insert(new Object[] {"TOP", null}),
                                insert(new Object[] {"SIDE", "TOP"}),
                                insert(new Object[] {"END", "SIDE"})));
                assertThat(code(answers.getFirst())).isEqualTo(ProblemCode.REFERENCE_MISSING);
                assertThat(answers.subList(1, 4)).allMatch(Answer.Done.class::isInstance);
                unit.commit();
            }
            Matches stored = Matches.find(valleys, List.of("TOP", "SIDE", "END"), 2);
            List<Change.Delete> deletes = java.util.stream.IntStream.range(0, 3)
                    .mapToObj(i -> stored.record(i))
                    .map(record -> new Change.Delete(
                            record.id(), record.mark(), new Object[] {record.value(0), record.value(1)}))
                    .toList();
            run("INSERT INTO valley VALUES ('ROOT', NULL), ('STAY', 'ROOT')");
            Matches others = Matches.find(valleys, List.of("ROOT"), 2);
            List<Change.Delete> all = new java.util.ArrayList<>(deletes);
            all.add(new Change.Delete(others.record(0).id(), others.record(0).mark(), new Object[] {"ROOT", null}));
            try (Unit unit = valleys.begin(UNIT)) {
                List<Answer> answers = Applied.with(valleys, unit, all);
                assertThat(code(answers.get(3))).isEqualTo(ProblemCode.STILL_REFERRED_TO);
                answers = answers.stream().filter(Answer.Done.class::isInstance).toList();
                assertThat(answers).hasSize(3);
                unit.commit();
            }
            assertThat(asked("SELECT group_concat(code ORDER BY code) FROM valley"))
                    .isEqualTo("ROOT,STAY");
        }
    }

    @Test
    void aSessionThatIsEndedEndsTheRunAndKeepsNothing() {
        Unit unit = target.begin(UNIT);
        apply(unit, List.of(insert(hut("H-001", 8L))));
        ((EndsSessions) system).end(((HoldsSession) target).session());
        assertThatThrownBy(() -> apply(unit, List.of(insert(hut("H-002", 8L)))))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.UNREACHABLE));
        assertThat(count()).isZero();
        ((EndsSessions) system).end("4711 127.0.0.1:1");
    }

    @Test
    void isTheSameSystemWhoeverAsks() {
        String identity = ((Identified) target).identity();
        try (Target again = system.target(system.describe("hut").orElseThrow(), USE)) {
            assertThat(((Identified) again).identity()).isEqualTo(identity).contains(database);
        }
    }

    @Test
    void namesWithQuotesAreQuotedAndKeysOfSeveralPartsFound() {
        run(
                "CREATE TABLE `odd ``table` (`part; one` varchar(40), `Part Two` int, `v``` text, PRIMARY KEY (`part; one`, `Part Two`))");
        List<String> key = List.of("part; one", "Part Two");
        try (Target odd = target("odd `table", key, List.of("part; one", "Part Two", "v`"))) {
            try (Unit unit = odd.begin(UNIT)) {
                Object[] values = {"a'; DROP TABLE hut; --", 2L, "x\\"};
                assertThat(Applied.with(odd, unit, List.of(new Change.Insert(null, values))))
                        .allMatch(Answer.Done.class::isInstance);
                unit.commit();
            }
            Matches stored = Matches.findRows(odd, List.<Object[]>of(new Object[] {"a'; DROP TABLE hut; --", 2L}), 3);
            assertThat(stored.matches(0)).isEqualTo(1);
            assertThat(stored.record(0).id()).isEqualTo(List.of("a'; DROP TABLE hut; --", 2L));
            assertThat(stored.record(0).value(2)).isEqualTo("x\\");
        }
        assertThat(count()).isZero();
    }

    @Test
    void onlyWhatCanBeUndoneAndIsPermittedIsWritten() {
        List.of(
                        "CREATE TABLE loose (no int PRIMARY KEY) ENGINE=MyISAM",
                        "CREATE VIEW huts AS SELECT * FROM hut",
                        "CREATE OR REPLACE USER 'looker'@'127.0.0.1' IDENTIFIED BY '" + PrivateMariadb.PASSWORD + "'",
                        "GRANT SELECT ON *.* TO 'looker'@'127.0.0.1'",
                        "CREATE OR REPLACE USER 'stageless'@'127.0.0.1' IDENTIFIED BY '" + PrivateMariadb.PASSWORD
                                + "'",
                        "GRANT SELECT, INSERT, UPDATE, DELETE ON *.* TO 'stageless'@'127.0.0.1'")
                .forEach(this::run);
        assertThat(system.recordTypes())
                .filteredOn(RecordType::writable)
                .extracting(RecordType::name)
                .containsExactly("hut", "region");
        assertThat(system.greet().canWrite()).isTrue();
        Writes looker = Mariadb.system(database, "looker");
        assertThat(looker.greet().canWrite()).isFalse();
        assertThat(looker.describe("hut")
                        .orElseThrow()
                        .field("beds")
                        .orElseThrow()
                        .traits()
                        .closed())
                .isEqualTo("the account has no right to write it");
        Writes stageless = Mariadb.system(database, "stageless");
        assertThat(stageless.greet().canWrite()).isFalse();
        assertThatThrownBy(() -> stageless.target(stageless.describe("hut").orElseThrow(), USE))
                .isInstanceOfSatisfying(CannotGoOn.class, e -> {
                    assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.NOT_PERMITTED);
                    assertThat(e.problems().getFirst().remedy()).contains("temporary tables");
                });
    }
}
