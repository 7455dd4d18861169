package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.connectors.database.mariadb.MariadbType;
import dev.nachlauf.connectors.database.postgresql.PostgresqlType;
import dev.nachlauf.contract.mariadb.PrivateMariadb;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.query.RecordQuestion;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.system.LooksUp;
import dev.nachlauf.core.system.OpenSystem.Greeting;
import dev.nachlauf.core.system.ReadsRecords;
import dev.nachlauf.core.system.ReadsRecords.Condition;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.system.ReadsRecords.RecordQuery;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Both databases as sources: the same table, read in a read-only transaction, gives the same records. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class RecordSourcesTest {
    private static final String ROWS =
            "INSERT INTO hut VALUES (1, 'Föhrenstein', 24.50, true, '2026-05-01', '2026-05-01 13:30:00'), (2, NULL, NULL, NULL, NULL, NULL)";
    private static final long LONG_ID = 9_223_372_036_854_775_806L;
    private static final String VISITORS = "CREATE TABLE visitor (id bigint PRIMARY KEY, card varchar(10))";
    private static final String VISITOR = "INSERT INTO visitor VALUES (" + LONG_ID + ", 'V-1')";
    private final PrivateCluster cluster = Cluster.SHARED;
    private ReadsRecords postgresql;
    private ReadsRecords mariadb;
    private int mariadbPort;

    @BeforeAll
    void fill() {
        cluster.createDatabase("record_sources");
        cluster.execute(
                "record_sources",
                "CREATE TABLE hut (id bigint PRIMARY KEY, name text, price numeric(7,2), winter boolean, opens date, seen timestamp);"
                        + ROWS + "; " + VISITORS + "; " + VISITOR);
        postgresql = (ReadsRecords) new PostgresqlType()
                .open(new Settings(
                        Map.of(
                                "port",
                                String.valueOf(cluster.port()),
                                "database",
                                "record_sources",
                                "user",
                                PrivateCluster.ADMIN),
                        reference -> ""));
        PrivateMariadb server = Mariadb.SHARED;
        mariadbPort = server.port();
        server.execute(
                PrivateMariadb.ACCOUNT,
                "CREATE TABLE hut (id bigint PRIMARY KEY, name varchar(60), price decimal(7,2), winter boolean, opens date, seen datetime,"
                        + " UNIQUE hut_name (name))",
                ROWS,
                VISITORS,
                VISITOR);
        mariadb = mariadb(PrivateMariadb.PASSWORD);
    }

    private ReadsRecords mariadb(String password) {
        return (ReadsRecords) new MariadbType()
                .open(new Settings(
                        Map.of(
                                "port",
                                String.valueOf(mariadbPort),
                                "database",
                                PrivateMariadb.ACCOUNT,
                                "user",
                                PrivateMariadb.ACCOUNT,
                                "password",
                                "env:P"),
                        reference -> password));
    }

    Stream<ReadsRecords> systems() {
        return Stream.of(postgresql, mariadb);
    }

    private static List<List<Object>> all(RecordCursor cursor) {
        try (cursor) {
            List<List<Object>> records = new ArrayList<>();
            for (Object[] record = cursor.next(); record != null; record = cursor.next()) {
                records.add(Arrays.asList(record));
            }
            return records;
        }
    }

    @ParameterizedTest
    @MethodSource("systems")
    void findRecordsByManyKeysAtOnce(ReadsRecords system) {
        List<LooksUp.Match> byName = ((LooksUp) system)
                .lookUp(
                        "hut",
                        List.of("name", "id"),
                        List.of("price", "id"),
                        List.of(new Object[] {"nowhere", 1L}, new Object[] {"Föhrenstein", 1L}));
        assertThat(byName).extracting(LooksUp.Match::count).containsExactly(0, 1);
        assertThat(byName.get(1).values()).containsExactly(new java.math.BigDecimal("24.50"), 1L);
        List<Object[]> many = new ArrayList<>();
        for (long id = 0; id < 1_200; id++) {
            many.add(new Object[] {id});
        }
        List<LooksUp.Match> byId = ((LooksUp) system).lookUp("hut", List.of("id"), List.of("name"), many);
        assertThat(byId.stream().filter(match -> match.count() == 1)).hasSize(2);
        assertThat(byId.get(1).values()).containsExactly("Föhrenstein");
        assertThat(byId.get(2).values()).containsOnlyNulls();
    }

    @ParameterizedTest
    @MethodSource("systems")
    void findIdsOfNineteenDigits(ReadsRecords system) {
        List<Object[]> keys = List.of(new Object[] {LONG_ID}, new Object[] {LONG_ID - 1});
        List<LooksUp.Match> byId = ((LooksUp) system).lookUp("visitor", List.of("id"), List.of("id", "card"), keys);
        assertThat(byId).extracting(LooksUp.Match::count).containsExactly(1, 0);
        assertThat(byId.getFirst().values()).containsExactly(LONG_ID, "V-1");
        assertThat(all(system.read(new RecordQuery.Records("visitor", List.of("id")))))
                .containsExactly(List.of(LONG_ID));
    }

    @ParameterizedTest
    @MethodSource("systems")
    void readOnlyWhatMeetsConditions(ReadsRecords system) {
        RecordQuery some = new RecordQuery.Records(
                "hut",
                List.of("id"),
                List.of(
                        new Condition.AtLeast("opens", java.time.LocalDate.of(2026, 5, 1)),
                        new Condition.Among("id", List.of(1L, 2L))));
        assertThat(all(system.read(some))).containsExactly(List.of(1L));
    }

    /** What the database leaves out, no formula would have taken. */
    @ParameterizedTest
    @MethodSource("systems")
    void findTheSameWhereTheDatabaseFiltersBeforehand(ReadsRecords system) {
        RecordDescription hut = system.describe("hut").orElseThrow();
        Map<String, Integer> recordsRead = new LinkedHashMap<>();
        for (String where : List.of(
                "id = 1",
                "id in (1, 7)",
                "name = 'Föhrenstein' and id < 5",
                "price >= 24.5",
                "price = 24.50",
                "winter = true",
                "opens between date '2026-05-01' and date '2026-05-31'",
                "seen = timestamp '2026-05-01 13:30:00'",
                "upper(name) = 'FÖHRENSTEIN'")) {
            RecordQuestion question = RecordQuestion.of(hut, Optional.of(where), List.of("id"));
            List<List<Object>> read = all(system.read(
                    new RecordQuery.Records("hut", List.of("id"), question.conditions(system::canFilterBy))));
            recordsRead.put(where, read.size());
            RecordQuery filtered =
                    new RecordQuery.Records("hut", question.read(), question.conditions(system::canFilterBy));
            RecordQuery unfiltered = new RecordQuery.Records("hut", question.read());
            try (RecordCursor some = system.read(filtered);
                    RecordCursor every = system.read(unfiltered)) {
                assertThat(question.count(some, List.of()).count())
                        .as(where)
                        .isEqualTo(1)
                        .isEqualTo(question.count(every, List.of()).count());
            }
        }
        boolean truths = system == postgresql;
        assertThat(recordsRead.values()).containsExactly(1, 1, 1, 1, 1, truths ? 1 : 2, 1, 1, 2);
    }

    @ParameterizedTest
    @MethodSource("systems")
    void giveRecordsWithTheirKinds(ReadsRecords system) {
        try (RecordCursor cursor = system.read(new RecordQuery.Records("hut", List.of()))) {
            assertThat(cursor.fields())
                    .containsExactly(
                            new Field("id", Kind.INTEGER),
                            new Field("name", Kind.TEXT),
                            new Field("price", Kind.DECIMAL),
                            new Field("winter", Kind.BOOLEAN),
                            new Field("opens", Kind.DATE),
                            new Field("seen", Kind.TIMESTAMP));
        }
        assertThat(all(system.read(new RecordQuery.Records("hut", List.of()))))
                .containsExactlyInAnyOrder(
                        List.of(
                                1L,
                                "Föhrenstein",
                                new BigDecimal("24.50"),
                                true,
                                LocalDate.of(2026, 5, 1),
                                LocalDateTime.of(2026, 5, 1, 13, 30)),
                        Arrays.asList(2L, null, null, null, null, null));
        assertThat(all(system.read(new RecordQuery.Records("hut", List.of("id")))))
                .hasSize(2);
    }

    @ParameterizedTest
    @MethodSource("systems")
    void bindParametersOfQueries(ReadsRecords system) {
        RecordQuery query = new RecordQuery.Statement(
                "select name, id as id, id from hut where id = :wanted and name <> :odd",
                Map.of("wanted", 1L, "odd", "x'; drop table hut; --"));
        try (RecordCursor cursor = system.read(query)) {
            assertThat(cursor.fields()).extracting(Field::name).containsExactly("name", "id", "id (2)");
            assertThat(all(cursor)).containsExactly(List.of("Föhrenstein", 1L, 1L));
        }
    }

    @ParameterizedTest
    @MethodSource("systems")
    void changeNothing(ReadsRecords system) {
        for (String query : List.of("delete from hut", "update hut set name = 'x'", "select 1; delete from hut")) {
            assertThatThrownBy(() -> all(system.read(new RecordQuery.Statement(query, Map.of()))))
                    .as(query)
                    .isInstanceOfSatisfying(
                            CannotGoOn.class,
                            e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.QUERY_REFUSED));
        }
        assertThat(all(system.read(new RecordQuery.Records("hut", List.of("id")))))
                .hasSize(2);
    }

    @ParameterizedTest
    @MethodSource("systems")
    void sayWhatIsWrongWithAQuery(ReadsRecords system) {
        assertThatThrownBy(() -> system.read(new RecordQuery.Statement("select nme from hut", Map.of())))
                .isInstanceOfSatisfying(CannotGoOn.class, e -> {
                    assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.QUERY_REFUSED);
                    assertThat(e.problems().getFirst().sentence()).contains("nme");
                });
    }

    @Test
    void anAlmightyAccountIsTold() {
        assertThat(postgresql.greet().cautions())
                .extracting(Problem::code)
                .containsExactly(ProblemCode.ACCOUNT_ALMIGHTY);
        cluster.execute("record_sources", "CREATE ROLE reader LOGIN");
        ReadsRecords reader = (ReadsRecords) new PostgresqlType()
                .open(new Settings(
                        Map.of("port", String.valueOf(cluster.port()), "database", "record_sources", "user", "reader"),
                        reference -> ""));
        assertThat(reader.greet().cautions()).isEmpty();
        reader.close();
    }

    @Test
    void mariadbIsLookedAt() {
        Greeting greeting = mariadb.greet();
        assertThat(greeting.system()).startsWith("MariaDB ");
        assertThat(greeting.canWrite()).isTrue();
        assertThat(mariadb.recordTypes()).extracting(type -> type.name()).containsExactly("hut", "visitor");
        RecordDescription hut = mariadb.describe("hut").orElseThrow();
        assertThat(hut.fields().get(1).length()).hasValue(60);
        assertThat(hut.uniqueKeys()).extracting(key -> key.fields().getFirst()).containsExactlyInAnyOrder("id", "name");
        assertThat(mariadb.describe("nothing")).isEmpty();
        assertThatThrownBy(() -> mariadb("wrong").greet())
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.SIGN_IN_REFUSED));
    }
}
