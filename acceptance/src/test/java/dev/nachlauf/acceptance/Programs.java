package dev.nachlauf.acceptance;

import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;

/**
 * Nachlauf's programs as processes. Services start with the classes that an earlier one has loaded, as the launch scripts
 * have it; the first process of tests that needs such an archive makes it for all.
 */
public final class Programs {
    private static final Path WARM = Installation.TOP.resolve("acceptance/target/warm");

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
        List<String> call = new ArrayList<>(List.of(java(), "-XX:TieredStopAtLevel=1", "-XX:+UseSerialGC"));
        call.addAll(options);
        call.addAll(List.of(
                "-Xshare:auto",
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

    /** The option by which a service starts warm; the cluster is used where the archive has to be made. */
    public static synchronized String warm(PrivateCluster cluster) {
        Path archive = WARM.resolve("service.jsa");
        try {
            Files.createDirectories(WARM);
            Path lock = WARM.resolve("lock");
            try (FileChannel file = FileChannel.open(lock, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
                    FileLock held = file.lock()) {
                if (!Files.exists(archive) || isOlder(archive, library("service"))) {
                    make(archive, cluster);
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return "-XX:SharedArchiveFile=" + archive;
    }

    private static boolean isOlder(Path archive, Path library) throws IOException {
        FileTime made = Files.getLastModifiedTime(archive);
        try (Stream<Path> jars = Files.list(library)) {
            return jars.anyMatch(jar -> modified(jar).compareTo(made) > 0);
        }
    }

    private static FileTime modified(Path file) {
        try {
            return Files.getLastModifiedTime(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A service that ends leaves its classes behind. */
    private static void make(Path archive, PrivateCluster cluster) throws IOException {
        Path made = WARM.resolve("made.jsa");
        try (Installation first = new Installation(cluster, "warm")) {
            first.start("", "-XX:ArchiveClassesAtExit=" + made);
        }
        Files.move(made, archive, StandardCopyOption.REPLACE_EXISTING);
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
            if (!process.waitFor(3, TimeUnit.MINUTES)) {
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
