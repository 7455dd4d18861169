package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.connectors.database.postgresql.PostgresqlType;
import dev.nachlauf.connectors.format.delimited.DelimitedFormat;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.profile.KeyAdvice;
import dev.nachlauf.core.profile.KeyAdvisor;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Keys of a file, compared with a table of PostgreSQL that nothing keeps unique. */
class KeyAdvisorTest {
    private static final PrivateCluster CLUSTER = Cluster.SHARED;
    private static final String DATABASE = "key_advice";
    private static boolean created;

    @TempDir
    Path folder;

    private Writes system;

    @BeforeEach
    void open() throws IOException {
        if (!created) {
            CLUSTER.createDatabase(DATABASE);
            created = true;
        }
        CLUSTER.execute(
                DATABASE,
                "DROP TABLE IF EXISTS hut; CREATE TABLE hut (code text, name text, beds integer)"
                        + " WITH (autovacuum_enabled = false);"
                        + " INSERT INTO hut SELECT 'H-' || n, 'Hut ' || n / 2, n FROM generate_series(1, 30) n");
        Files.writeString(
                folder.resolve("huts.csv"), "code;name;beds\nH-1;Hut 0;70\nH-2;Hut 1;70\nH-3;Hut 1;70\nH-99;New;70\n");
        system = (Writes) new PostgresqlType()
                .open(new Settings(
                        Map.of(
                                "port",
                                String.valueOf(CLUSTER.port()),
                                "database",
                                DATABASE,
                                "user",
                                PrivateCluster.ADMIN),
                        reference -> ""));
    }

    @AfterEach
    void close() {
        system.close();
    }

    private List<KeyAdvice> advice(List<List<String>> asked) {
        return KeyAdvisor.advise(
                () -> new DelimitedFormat()
                        .read(SourceBytes.of("huts.csv", folder.resolve("huts.csv")), FormatOptions.NONE),
                system.describe("hut").orElseThrow(),
                system,
                asked,
                folder);
    }

    @Test
    void aTableThatWasNeverAnalysedIsSearchedAllTheSame() {
        KeyAdvice best = advice(List.of()).getFirst();
        assertThat(best.source()).containsExactly("code");
        assertThat(best.keptUnique()).isFalse();
        assertThat(best.update()).isEqualTo(3);
        assertThat(best.insert()).isEqualTo(1);
        assertThat(best.notFound()).containsExactly("H-99");
        KeyAdvice name = advice(List.of(List.of("name"))).stream()
                .filter(candidate -> candidate.source().equals(List.of("name")))
                .findFirst()
                .orElseThrow();
        assertThat(name.ambiguous()).as("Hut 1 stands twice").isEqualTo(1);
    }

    @Test
    void aTableThatIsKnownToBeLargeIsSearchedForNoFieldThatNothingKeepsUnique() {
        CLUSTER.execute(
                DATABASE, "INSERT INTO hut SELECT 'X-' || n, 'X', n FROM generate_series(1, 20100) n; ANALYZE hut");
        assertThat(advice(List.of())).isEmpty();
        assertThatThrownBy(() -> advice(List.of(List.of("code"))))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.KEY_NOT_UNIQUE));
    }
}
