package dev.nachlauf.acceptance;

import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;

/**
 * Nachlauf's programs as processes. Services start with what an earlier one has learnt, as the launch scripts have it; the
 * first process of tests that needs it makes it for all.
 */
public final class Programs {
    /** The state folder of the service that others start warm by. */
    static final Path WARM = Installation.TOP.resolve("acceptance/target/warm");

    private static final String QUICK_COMPILER = "-XX:TieredStopAtLevel=1";

    /** A service that is started, loads three rows, of which one is rejected, and is stopped. */
    private static final String WARM_UP = """
            set -euo pipefail
            . "$0/tools/common.sh"
            . "$0/demo-data/run.sh"
            find_jdk
            warm_start
            if [ -n "$LEARNING" ] || [ ! -e "$NACHLAUF_HOME/options" ]; then
              trap 'stop_service; stop_cluster; rm -rf "${CLUSTER:-}" "$NACHLAUF_HOME/cluster.folder"' EXIT
              echo "$FREE_PORT" >"$NACHLAUF_HOME/cluster.port"
              start_cluster
              create_register
              export NACHLAUF_SECRET_REGISTER="$(secret register_loader)" NACHLAUF_FOLDERS="$TOP/demo-data"
              start_service
              export NACHLAUF_SERVER="$ADDRESS"
              cd "$NACHLAUF_HOME"
              for document in "$TOP"/demo-data/connections/{register,wardens-inbox}.yaml; do
                sed -e "s|\\${DEMO_FILES}|$TOP/demo-data/files|" -e "s|\\${PG_PORT}|$PG_PORT|" "$document" >"$(basename "$document")"
              done
              "$TOP/nachlauf" connection save register.yaml wardens-inbox.yaml
              echo "$JOB" >regions.yaml
              "$TOP/nachlauf" job save regions.yaml
              printf '%s\\n' 'code;name' 'BRE;Brennach' 'SEE;See' 'TANN;Tannried' >regions.csv
              told run start regions --file regions.csv
              stop_service
              warm_start
              printf '%s\\n' "${WARM[@]}" >"$NACHLAUF_HOME/options"
            fi""";

    private static final String WARM_UP_JOB = """
            nachlauf: 1
            job: regions
            read: { connection: wardens-inbox, file: none.csv }
            write:
              connection: register
              records: region
              action: upsert
              key: [region_code]
              map: { region_code: code, name: name }
            """;

    private static List<String> warmth = List.of();

    private Programs() {}

    /** The call that starts the service. */
    public static List<String> service(List<String> options) {
        List<String> asLaunched = new ArrayList<>(options);
        asLaunched.add("-Dspring.aot.enabled=true");
        return call("service", "dev.nachlauf.service.NachlaufService", asLaunched);
    }

    /** The call that starts the client. */
    static List<String> client(String... words) {
        List<String> call = call("cli", "dev.nachlauf.cli.Nachlauf", List.of());
        call.addAll(List.of(words));
        return call;
    }

    private static List<String> call(String module, String type, List<String> options) {
        List<String> call = new ArrayList<>(List.of(java(), QUICK_COMPILER, "-XX:+UseSerialGC"));
        call.addAll(options);
        call.addAll(List.of(
                "-Xlog:cds=off",
                "-Xlog:cds+dynamic=off",
                "--enable-native-access=ALL-UNNAMED",
                "-cp",
                library(module) + "/*",
                type));
        return call;
    }

    private static Path library(String module) {
        return Installation.TOP.resolve(module + "/target/lib");
    }

    /**
     * The options by which a service starts warm. The first process of tests that asks has the launch scripts start a service and
     * stop it: one that ends leaves behind what it learnt.
     */
    public static synchronized List<String> warm() {
        if (warmth.isEmpty()) {
            warmth = warmUp();
        }
        return warmth;
    }

    private static List<String> warmUp() {
        try {
            Files.createDirectories(WARM);
            Path lock = WARM.resolve("lock");
            try (FileChannel file = FileChannel.open(lock, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
                    FileLock held = file.lock()) {
                Result made = run(
                        List.of("bash", "-c", WARM_UP, Installation.TOP.toString()),
                        Map.of(
                                "NACHLAUF_HOME", WARM.toString(),
                                "NACHLAUF_PORT", String.valueOf(PrivateCluster.freePort()),
                                "FREE_PORT", String.valueOf(PrivateCluster.freePort()),
                                "JOB", WARM_UP_JOB,
                                "NACHLAUF_JAVA_OPTIONS", QUICK_COMPILER));
                if (made.status() != 0) {
                    throw new IllegalStateException(made.out() + made.err());
                }
                return Files.readAllLines(WARM.resolve("options"));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    static String java() {
        return Path.of(System.getProperty("java.home"), "bin", "java").toString();
    }

    /** Runs a program to its end. */
    static Result run(List<String> call, Map<String, String> variables) {
        try {
            Path out = Files.createTempFile("program", "out");
            Path err = Files.createTempFile("program", "err");
            ProcessBuilder builder =
                    new ProcessBuilder(call).redirectOutput(out.toFile()).redirectError(err.toFile());
            builder.environment().putAll(variables);
            Process process = builder.start();
            if (!process.waitFor(5, TimeUnit.MINUTES)) {
                process.destroyForcibly();
                throw new IllegalStateException("did not end: " + call);
            }
            Result result = new Result(process.exitValue(), Installation.read(out), Installation.read(err));
            Files.delete(out);
            Files.delete(err);
            return result;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
    }
}
