package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.ReadsRecords;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.system.ReadsRecords.RecordQuery;
import dev.nachlauf.core.system.Settings;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Encryption to a server that offers it under the name localhost, by a certificate that no known authority has signed. */
abstract class DatabaseTlsContract {
    /** The port of a server with TLS. */
    abstract int port();

    /** Its certificate. */
    abstract Path certificate();

    /** The port of a server without TLS. */
    abstract int plainPort();

    abstract OpenSystem open(Settings settings);

    /** Settings that lead to a database of either server, but for host and port. */
    abstract Map<String, String> account();

    /** A question whether the session is encrypted, answered by true. */
    abstract String isEncrypted();

    private OpenSystem open(int port, String host, String... settings) {
        Map<String, String> all = new HashMap<>(account());
        all.put("host", host);
        all.put("port", String.valueOf(port));
        for (int i = 0; i < settings.length; i += 2) {
            all.put(settings[i], settings[i + 1]);
        }
        return open(new Settings(all, reference -> secret()));
    }

    /** The password, where there is one. */
    String secret() {
        return "";
    }

    /** Whether the server sees the session as encrypted. */
    private boolean encrypted(String host, String... settings) {
        try (OpenSystem system = open(port(), host, settings);
                RecordCursor cursor =
                        ((ReadsRecords) system).read(new RecordQuery.Statement(isEncrypted(), Map.of()))) {
            return "true".equals(String.valueOf(cursor.next()[0]));
        }
    }

    private void refused(int port, String host, String... settings) {
        try (OpenSystem system = open(port, host, settings)) {
            assertThatThrownBy(system::greet).isInstanceOfSatisfying(CannotGoOn.class, e -> {
                assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.TLS_REFUSED);
                assertThat(e.isTemporary()).isFalse();
            });
        }
    }

    @Test
    void isOffOnLoopbackUnlessItIsAskedFor() {
        assertThat(encrypted("localhost")).isFalse();
        assertThat(encrypted("127.0.0.1", "tls", "require")).isTrue();
        assertThat(encrypted(
                        "localhost", "tls", "verify", "authority", certificate().toString()))
                .isTrue();
    }

    @Test
    void aServerIsRefusedThatIsNotWhoItShouldBe() {
        refused(port(), "localhost", "tls", "verify");
        refused(port(), "127.0.0.1", "tls", "verify", "authority", certificate().toString());
    }

    @Test
    void aServerWithoutTlsIsRefusedWhereItIsDemanded() {
        refused(plainPort(), "localhost", "tls", "require");
        refused(plainPort(), "localhost", "tls", "verify");
    }

    @Test
    void anotherWordIsRefused() {
        assertThatThrownBy(() -> open(port(), "localhost", "tls", "maybe"))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.SETTING_MALFORMED));
    }
}
