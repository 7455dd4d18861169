package dev.nachlauf.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;

class ExposureTest {
    private static final Map<String, String> WIDE = Map.of(
            "NACHLAUF_ADDRESS", "0.0.0.0",
            "NACHLAUF_TLS_CERTIFICATE", "/etc/own/service.pem",
            "NACHLAUF_TLS_KEY", "/etc/own/service.key",
            "NACHLAUF_HOSTS", "loads.huts.example");

    private static String problemWithout(String... settings) {
        Map<String, String> environment = new java.util.HashMap<>(WIDE);
        for (String setting : settings) {
            environment.remove(setting);
        }
        return Exposure.problem(environment).orElse("");
    }

    @Test
    void loopbackNeedsNothing() {
        assertThat(Exposure.problem(Map.of())).isEmpty();
        assertThat(Exposure.problem(Map.of("NACHLAUF_ADDRESS", "::1"))).isEmpty();
        assertThat(Exposure.tls(Map.of())).isEmpty();
    }

    @Test
    void anotherAddressNeedsTlsAndNames() {
        assertThat(problemWithout()).isEmpty();
        assertThat(problemWithout("NACHLAUF_TLS_CERTIFICATE", "NACHLAUF_TLS_KEY"))
                .contains("needs TLS");
        assertThat(problemWithout("NACHLAUF_TLS_KEY")).contains("go together");
        assertThat(problemWithout("NACHLAUF_HOSTS")).contains("must know its names");
        assertThat(Exposure.tls(WIDE))
                .containsEntry("server.ssl.certificate", "file:/etc/own/service.pem")
                .containsEntry("server.ssl.certificate-private-key", "file:/etc/own/service.key");
    }
}
