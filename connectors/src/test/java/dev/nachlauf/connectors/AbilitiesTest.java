package dev.nachlauf.connectors;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.system.Ability;
import dev.nachlauf.core.system.Connectors;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.SystemType;
import java.util.Arrays;
import java.util.Map;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** What kinds of systems can do, told before one is opened. */
class AbilitiesTest {
    private static final Connectors CONNECTORS = Connectors.load();

    @Test
    void everyKindTellsWhatItCanDo() {
        Map<String, String> abilities = CONNECTORS.systems().stream()
                .collect(Collectors.toMap(
                        SystemType::type,
                        type -> Ability.of(type).stream().map(Ability::word).collect(Collectors.joining(" "))));
        assertThat(abilities)
                .isEqualTo(Map.of(
                        "folder", "files",
                        "ftp", "files",
                        "http", "files",
                        "sftp", "files",
                        "mail", "telling",
                        "webhook", "telling",
                        "mariadb", "records writing",
                        "postgresql", "records writing"));
    }

    @Test
    void everyKindOpensWhatItSays() {
        for (SystemType type : CONNECTORS.systems()) {
            assertThat(Arrays.stream(type.getClass().getMethods())
                            .filter(method -> method.getName().equals("open") && !method.isBridge())
                            .filter(method ->
                                    Arrays.equals(method.getParameterTypes(), new Class<?>[] {Settings.class})))
                    .as(type.type())
                    .singleElement()
                    .satisfies(method -> assertThat(method.getReturnType()).isEqualTo(type.opens()));
        }
    }
}
