package dev.nachlauf.connectors.database;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.system.Settings;
import java.util.Map;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class TlsTest {
    @ParameterizedTest
    @CsvSource({"127.0.0.1,OFF", "localhost,OFF", "[::1],OFF", "register.huts.example,VERIFY", "10.0.0.7,VERIFY"})
    void isVerifiedBeyondThisMachineUnlessStatedOtherwise(String host, Tls usual) {
        assertThat(Tls.of(new Settings(Map.of("host", host), reference -> ""))).isEqualTo(usual);
        assertThat(Tls.of(new Settings(Map.of("host", host, "tls", "require"), reference -> "")))
                .isEqualTo(Tls.REQUIRE);
    }
}
