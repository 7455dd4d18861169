package dev.nachlauf.connectors.database;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.system.Settings;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class HostNameTest {
    private static String of(Map<String, String> settings) {
        return HostName.of(new Settings(settings, reference -> ""));
    }

    @ParameterizedTest
    @ValueSource(strings = {"db", "register.example.org", "127.0.0.1", "[::1]", "a-b_c"})
    void takesNamesAndAddresses(String host) {
        assertThat(of(Map.of("host", host))).isEqualTo(host);
    }

    @Test
    void isThisMachineUnlessGiven() {
        assertThat(of(Map.of())).isEqualTo("127.0.0.1");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "127.0.0.1:5432/db?readOnlyMode=ignore&",
                "db?a=b",
                "db/other",
                "db:5432",
                "db&x=y",
                "db#x",
                "user@db",
                "db,other",
                "a b",
                "-db",
                "::1",
                ""
            })
    void refusesWhatADriverWouldTakeForOptions(String host) {
        assertThatThrownBy(() -> of(Map.of("host", host)))
                .isInstanceOf(CannotGoOn.class)
                .hasMessageContaining("host");
    }
}
