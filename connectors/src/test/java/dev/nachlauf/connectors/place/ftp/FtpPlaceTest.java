package dev.nachlauf.connectors.place.ftp;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.connectors.place.Deliveries;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.HoldsFiles.FoundFile;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.standins.FileDrop;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A real FTP server on loopback, plain and over TLS. */
@Execution(ExecutionMode.SAME_THREAD) // its tests share a folder
class FtpPlaceTest {
    @TempDir
    static Path folder;

    private static FileDrop drop;
    private static byte[] content;

    @BeforeAll
    static void start() throws IOException {
        drop = FileDrop.start(folder, "guides", "s3cret", "");
        content = new byte[300_000];
        new Random(3).nextBytes(content);
        Files.write(folder.resolve("orders-1.bin"), content);
        Files.writeString(folder.resolve("orders-2.bin"), "two");
        Files.createDirectory(folder.resolve("deep"));
    }

    @AfterAll
    static void stop() {
        drop.close();
    }

    private static HoldsFiles open(Map<String, String> changes) {
        Map<String, String> settings = new HashMap<>(Map.of(
                "host", "127.0.0.1",
                "port", String.valueOf(drop.ftpPort()),
                "user", "guides",
                "password", "env:PASSWORD",
                "certificate", drop.certificate()));
        settings.putAll(changes);
        settings.values().removeIf(String::isEmpty);
        Map<String, String> secrets =
                Map.of("env:PASSWORD", "s3cret", "env:WRONG", "wrong", "env:TWO_LINES", "s3cret\nDELE x");
        return (HoldsFiles) new FtpType().open(new Settings(settings, secrets::get));
    }

    private static ProblemCode refused(Map<String, String> changes) {
        try (HoldsFiles place = open(changes)) {
            place.greet();
        } catch (CannotGoOn e) {
            return e.problems().getFirst().code();
        }
        throw new AssertionError("it was reached");
    }

    @ParameterizedTest
    @ValueSource(strings = {"off", "explicit"})
    void findsAndFetchesOneFileAfterTheOther(String tls) throws IOException {
        try (HoldsFiles place = open(Map.of("tls", tls))) {
            assertThat(place.greet().signedInAs()).isEqualTo("guides");
            List<FoundFile> found = place.find("orders-*");
            assertThat(found).extracting(FoundFile::name).containsExactly("orders-1.bin", "orders-2.bin");
            assertThat(found.getFirst().size()).isEqualTo(300_000);
            for (FoundFile file : found) {
                try (InputStream bytes = place.open(file)) {
                    assertThat(bytes.readAllBytes()).hasSize((int) file.size());
                }
            }
            try (InputStream bytes = place.open(found.getFirst())) {
                assertThat(bytes.readAllBytes()).isEqualTo(content);
            }
        }
    }

    @Test
    void deliversAFile(@TempDir Path local) throws IOException {
        try (HoldsFiles place = open(Map.of())) {
            Deliveries.check(place, folder, local);
        }
    }

    @Test
    void trustsOnlyTheStatedCertificate() {
        assertThat(refused(Map.of("certificate", "00".repeat(32)))).isEqualTo(ProblemCode.HOST_UNKNOWN);
        assertThat(refused(Map.of("certificate", ""))).isEqualTo(ProblemCode.HOST_UNKNOWN);
    }

    @Test
    void saysWhatIsWrong() {
        assertThat(refused(Map.of("password", "env:WRONG"))).isEqualTo(ProblemCode.SIGN_IN_REFUSED);
        assertThat(refused(Map.of("path", "nowhere"))).isEqualTo(ProblemCode.FILE_MISSING);
        assertThat(refused(Map.of("port", "1"))).isEqualTo(ProblemCode.UNREACHABLE);
        assertThat(refused(Map.of("path", "deep\r\nDELE orders-2.bin"))).isEqualTo(ProblemCode.SETTING_MALFORMED);
        assertThat(refused(Map.of("user", "guides\r\nDELE orders-2.bin"))).isEqualTo(ProblemCode.SETTING_MALFORMED);
        assertThat(refused(Map.of("password", "env:TWO_LINES"))).isEqualTo(ProblemCode.SETTING_MALFORMED);
        assertThat(refused(Map.of("tls", "perhaps"))).isEqualTo(ProblemCode.SETTING_MALFORMED);
    }
}
