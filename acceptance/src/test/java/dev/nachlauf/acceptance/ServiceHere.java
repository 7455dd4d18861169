package dev.nachlauf.acceptance;

import dev.nachlauf.service.NachlaufService;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import dev.nachlauf.standins.service.ServiceDatabase;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Set;
import java.util.stream.Stream;
import org.springframework.boot.SpringApplication;
import org.springframework.context.ConfigurableApplicationContext;

/**
 * The service in the tests' process. Its start takes longer than most tests, so one that is closed is emptied and lent to the
 * next class, if all that it did has come to an end.
 *
 * @param state its state folder
 */
record ServiceHere(ServiceDatabase database, Path state, ConfigurableApplicationContext context) {
    /** What services say that live in this process. */
    static final Path LOG_OF_ALL = Installation.newFolder("nachlauf-log").resolve("services.log");

    /** The folder in which all homes lie that these services may read. */
    static final Path HOMES = Installation.newFolder("nachlauf-homes");

    private static final Deque<ServiceHere> IDLE = new ArrayDeque<>();
    private static int started;

    /** What a first start leaves in the state folder: who it belongs to, and the first token. */
    private static final Set<String> FIRST_FILES = Set.of("installation", "token");

    /** One that knows nothing but its first start. */
    static synchronized ServiceHere empty() {
        return IDLE.isEmpty() ? start("service_" + ++started) : IDLE.pop();
    }

    private static ServiceHere start(String name) {
        ServiceDatabase database = ServiceDatabase.create(Installation.sharedCluster(), name);
        Path state = Installation.newFolder("nachlauf-state");
        SpringApplication service = new SpringApplication(NachlaufService.class);
        service.setMainApplicationClass(NachlaufService.class);
        // properties by their own names, for variables of this process would count more than what stands for theirs
        ConfigurableApplicationContext context = service.run(
                "--logging.file.name=" + LOG_OF_ALL,
                "--nachlauf.home=" + state,
                "--nachlauf.folders=" + HOMES + "," + Installation.TOP.resolve("demo-data"),
                "--server.port=0",
                "--spring.datasource.url=" + database.cluster().url(name),
                "--spring.datasource.username=" + PrivateCluster.ADMIN,
                "--spring.datasource.password=");
        return new ServiceHere(database, state, context);
    }

    int port() {
        return Integer.parseInt(context.getEnvironment().getRequiredProperty("local.server.port"));
    }

    /** Nobody uses it any more. */
    void giveBack() {
        if (database.isAtRest() && database.empty()) {
            lend(this);
        } else {
            context.close();
        }
    }

    private static synchronized void lend(ServiceHere service) {
        service.forgetFiles();
        IDLE.push(service);
    }

    /** The state folder as after the first start. */
    private void forgetFiles() {
        try (Stream<Path> kept = Files.walk(state)) {
            for (Path file : kept.filter(Files::isRegularFile).toList()) {
                if (!FIRST_FILES.contains(state.relativize(file).toString())) {
                    Files.delete(file);
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
