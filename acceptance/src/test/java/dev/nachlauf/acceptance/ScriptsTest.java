package dev.nachlauf.acceptance;

import static dev.nachlauf.acceptance.Patience.patiently;
import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.lang.ProcessBuilder.Redirect;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What the launch scripts share, with a cluster and a service of their own. */
class ScriptsTest {
    private static final Duration PATIENCE = Duration.ofMinutes(5);

    @TempDir
    Path home;

    private @Nullable Process script;
    private int port;

    @BeforeEach
    void open() throws IOException {
        // the database's own user has to get there
        Files.setPosixFilePermissions(home, PosixFilePermissions.fromString("rwxr-xr-x"));
        port = PrivateCluster.freePort();
        Files.writeString(home.resolve("cluster.port"), port + "\n");
    }

    @AfterEach
    void end() throws InterruptedException {
        if (script != null) {
            script.destroy();
            assertThat(script.waitFor(PATIENCE.toSeconds(), TimeUnit.SECONDS)).isTrue();
        }
    }

    private void start(String commands) throws IOException {
        start(commands, "");
    }

    /** @param options what the service's JVM is told besides */
    private void start(String commands, String options) throws IOException {
        ProcessBuilder builder = new ProcessBuilder(
                        "bash",
                        "-c",
                        "set -euo pipefail; . " + Installation.TOP.resolve("tools/common.sh")
                                + "; trap 'stop_service; stop_cluster' EXIT; trap 'exit 0' INT TERM; " + commands)
                .redirectErrorStream(true)
                .redirectOutput(Redirect.to(home.resolve("said").toFile()));
        builder.environment().put("NACHLAUF_HOME", home.toString());
        builder.environment().put("NACHLAUF_PORT", String.valueOf(PrivateCluster.freePort()));
        builder.environment().put("NACHLAUF_JAVA_OPTIONS", "-XX:TieredStopAtLevel=1 " + options);
        script = builder.start();
    }

    private String said() {
        return Installation.read(home.resolve("said"));
    }

    @Test
    void theClusterKeepsItsPortForConnectionsNameIt() throws IOException, InterruptedException {
        start("start_cluster; echo first $PG_PORT; stop_cluster; start_cluster; echo second $PG_PORT");
        assertThat(script.waitFor(PATIENCE.toSeconds(), TimeUnit.SECONDS)).isTrue();
        assertThat(said().lines()).contains("first " + port, "second " + port);
    }

    /** The service by which those of all tests start warm has been started and stopped by the scripts. */
    @Test
    void whatIsKeptIsOursAloneAndTheNextStartUsesIt() throws IOException {
        Path warm = Programs.WARM;
        assertThat(String.join(" ", Programs.warm()))
                .containsPattern("-XX:(AOTCache=|\\+AutoCreateSharedArchive -XX:SharedArchiveFile=)"
                        + Pattern.quote(warm.toString()));
        try (Stream<Path> kept = Files.walk(warm)) {
            assertThat(kept.filter(path -> !path.equals(warm) && !path.endsWith("lock")))
                    .isNotEmpty()
                    .allSatisfy(path -> assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(path)))
                            .endsWith("------"));
        }
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(warm)))
                .as("at most passed through")
                .matches("rwx--[-x]--[-x]");
    }

    @Test
    void aServiceThatEndsByItselfIsStartedAgain() throws IOException {
        start(
                "export NACHLAUF_NO_CACHE=1; start_cluster; start_service; keep_service_up",
                String.join(" ", Programs.warm()));
        patiently().until(this::isUp);
        String address = Installation.read(home.resolve("address"));
        ProcessHandle first = service().orElseThrow();
        assertThat(first.info().arguments().orElseThrow())
                .as("a service without memory ends, for what it does then is anybody's guess")
                .contains("-XX:+ExitOnOutOfMemoryError");
        first.destroyForcibly();
        patiently()
                .until(() -> service().filter(next -> next.pid() != first.pid()).isPresent() && isUp());
        assertThat(Installation.read(home.resolve("address")))
                .as("at the same address")
                .isEqualTo(address);
        assertThat(said()).contains("The service ended with status 137 and is started again");
        assertThat(home.resolve("service-ended.log")).isNotEmptyFile();
    }

    private Optional<ProcessHandle> service() {
        return script.children()
                .filter(child -> child.info().command().orElse("").endsWith("java"))
                .findFirst();
    }

    private boolean isUp() {
        Path address = home.resolve("address");
        if (!Files.exists(address)) {
            assertThat(script.isAlive()).as(said()).isTrue();
            return false;
        }
        try {
            URI health = URI.create(Installation.read(address).strip() + "/actuator/health");
            return HttpClient.newHttpClient()
                            .send(HttpRequest.newBuilder(health).build(), BodyHandlers.discarding())
                            .statusCode()
                    == 200;
        } catch (IOException e) {
            return false;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
    }
}
