package dev.nachlauf.service.source;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.api.FileView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.connection.Connections;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Files that may still be written are not taken, whatever the clock of their place says. */
class FetchingTest {
    private static ServiceUnderTest service;

    @BeforeAll
    static void start() {
        service = new ServiceUnderTest();
        service.bean(Connections.class).save("till.yaml", """
                nachlauf: 1
                connection: till
                type: folder
                settings: { path: %s, quiet: 1 }
                """.formatted(ServiceUnderTest.folder()), "test");
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static Path file(String name, Duration age) throws IOException {
        Path file = Files.writeString(ServiceUnderTest.folder().resolve(name), "code;beds\nH-1;8\n");
        return Files.setLastModifiedTime(file, FileTime.from(Instant.now().minus(age)));
    }

    private static FileView fetch(String name) {
        try (OpenSystem place = service.bean(Connections.class).opened("till")) {
            return service.bean(Sources.class)
                    .fetch("till", (HoldsFiles) place, name)
                    .getFirst();
        }
    }

    @Test
    void aFileOfTheFutureThatStaysAsItIsIsTaken() throws IOException {
        file("future.csv", Duration.ofDays(-1));
        assertThat(fetch("future.csv").size()).isEqualTo(16);
    }

    @Test
    void oneThatGrowsIsLeftForTheNextTime() throws Exception {
        Path growing = file("growing.csv", Duration.ofDays(-1));
        Thread writer = Thread.ofPlatform().daemon().start(() -> {
            try {
                while (!Thread.currentThread().isInterrupted()) {
                    Files.writeString(growing, "H-2;9\n", StandardOpenOption.APPEND);
                    Files.setLastModifiedTime(
                            growing, FileTime.from(Instant.now().plus(Duration.ofDays(1))));
                }
            } catch (IOException e) {
                throw new IllegalStateException(e);
            }
        });
        try {
            assertThatThrownBy(() -> fetch("growing.csv"))
                    .isInstanceOf(CannotGoOn.class)
                    .hasMessageContaining("still being written");
        } finally {
            writer.interrupt();
            writer.join();
        }
    }

    @Test
    void anOldOneIsTakenAtOnce() throws IOException {
        file("old.csv", Duration.ofHours(1));
        assertThat(fetch("old.csv").name()).isEqualTo("old.csv");
    }
}
