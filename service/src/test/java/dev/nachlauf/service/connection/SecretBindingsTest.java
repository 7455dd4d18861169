package dev.nachlauf.service.connection;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import dev.nachlauf.api.SecretBindingView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.ServiceUnderTest;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CyclicBarrier;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** A secret goes to the host it was first used with, and to no other one until somebody unbinds it. */
class SecretBindingsTest {
    private static ServiceUnderTest service;
    private static Connections connections;
    private static SecretBindings bindings;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        connections = service.bean(Connections.class);
        bindings = service.bean(SecretBindings.class);
        Path secrets = Files.createDirectories(service.home().resolve("secrets"));
        for (String name : List.of("register", "moved", "idle")) {
            Files.createFile(
                    secrets.resolve(name),
                    PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
        }
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static void save(String name, String host, String secret) {
        connections.save(name, """
                nachlauf: 1
                connection: %s
                type: postgresql
                settings: { host: %s, port: 1, database: register, user: loader, tls: off, password: { file: %s } }
                """.formatted(name, host, secret), "test");
    }

    private static void refused(String connection, String... words) {
        assertThatThrownBy(() -> connections.opened(connection).close()).isInstanceOfSatisfying(CannotGoOn.class, e -> {
            assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.SECRET_BOUND);
            assertThat(e.problems().getFirst().sentence()).contains(words);
            assertThat(e.isTemporary()).isFalse();
        });
    }

    @Test
    void noOtherHostGetsIt() {
        save("register", "LOCALHOST", "register");
        save("register-mirror", "localhost", "register");
        save("elsewhere", "127.0.0.2", "register");
        assertThatCode(() -> connections.opened("register").close()).doesNotThrowAnyException();
        assertThatCode(() -> connections.opened("register-mirror").close()).doesNotThrowAnyException();
        refused("elsewhere", "file:register", "localhost", "127.0.0.2");
        assertThat(bindings.list())
                .filteredOn(bound -> bound.reference().equals("file:register"))
                .extracting(SecretBindingView::host, SecretBindingView::connection)
                .containsExactly(tuple("localhost", "register"));
    }

    @Test
    void aConnectionThatIsChangedDoesNotTakeItAlong() {
        save("moving", "127.0.0.1", "moved");
        connections.opened("moving").close();
        save("moving", "127.0.0.2", "moved");
        refused("moving", "127.0.0.1");
        assertThat(bindings.unbind("file:moved").host()).isEqualTo("127.0.0.1");
        connections.opened("moving").close();
        save("moving", "127.0.0.1", "moved");
        refused("moving", "127.0.0.2");
    }

    @Test
    void ofTwoFirstUsesAtOnceOneCounts() throws InterruptedException {
        ConcurrentLinkedQueue<Throwable> unexpected = new ConcurrentLinkedQueue<>();
        for (int round = 0; round < 20; round++) {
            String reference = "file:raced-" + round;
            CyclicBarrier start = new CyclicBarrier(2);
            ConcurrentLinkedQueue<String> served = new ConcurrentLinkedQueue<>();
            List<Thread> hands = new ArrayList<>();
            for (String host : List.of("one.example", "two.example")) {
                hands.add(Thread.startVirtualThread(() -> {
                    try {
                        start.await();
                        bindings.require(reference, host, "raced");
                        served.add(host);
                    } catch (CannotGoOn e) {
                        // the other one was first
                    } catch (Exception e) {
                        unexpected.add(e);
                    }
                }));
            }
            for (Thread hand : hands) {
                hand.join();
            }
            assertThat(served).hasSize(1);
        }
        assertThat(unexpected).isEmpty();
    }

    @Test
    void aSecretThatNobodyUsedIsBoundToNothing() {
        save("idle", "127.0.0.1", "idle");
        assertThat(bindings.list()).extracting(SecretBindingView::reference).doesNotContain("file:idle");
        assertThatThrownBy(() -> bindings.unbind("file:idle"))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.NOT_FOUND));
    }
}
