package dev.nachlauf.core.spool;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SharedFolderTest {
    @TempDir
    Path folder;

    private static List<String> names(List<SharedFolder.Entry> entries) {
        return entries.stream()
                .map(entry -> entry.path().getFileName().toString())
                .sorted()
                .toList();
    }

    @Test
    void tellsWhatIsInItAndBelow() throws IOException {
        Files.writeString(folder.resolve("huts.csv"), "code;beds");
        Files.writeString(Files.createDirectories(folder.resolve("old/older")).resolve("stays.csv"), "stay");
        Files.createSymbolicLink(folder.resolve("link"), folder.resolve("nowhere"));
        assertThat(names(SharedFolder.entries(folder))).containsExactly("huts.csv", "link", "old");
        assertThat(names(SharedFolder.filesBelow(folder))).containsExactly("huts.csv", "link", "stays.csv");
        assertThat(SharedFolder.entries(folder))
                .filteredOn(entry -> entry.path().endsWith("huts.csv"))
                .singleElement()
                .satisfies(entry -> assertThat(entry.attributes().size()).isEqualTo(9));
    }

    @Test
    void mayBeKnownByALink() throws IOException {
        Path real = Files.createDirectory(folder.resolve("real"));
        Files.writeString(real.resolve("huts.csv"), "");
        Path link = Files.createSymbolicLink(folder.resolve("link"), real);
        assertThat(names(SharedFolder.entries(link))).containsExactly("huts.csv");
    }

    @Test
    void saysThatTheFolderItselfIsMissing() {
        Path missing = folder.resolve("missing");
        assertThatThrownBy(() -> SharedFolder.entries(missing)).isInstanceOf(NoSuchFileException.class);
    }

    @Test
    void leavesOutWhatGoesWhileItLooks() throws Exception {
        Path stays = Files.writeString(folder.resolve("stays"), "");
        AtomicBoolean done = new AtomicBoolean();
        Thread other = Thread.ofPlatform().start(() -> comeAndGo(done));
        try {
            for (int look = 0; look < 500; look++) {
                assertThat(SharedFolder.entries(folder))
                        .extracting(SharedFolder.Entry::path)
                        .contains(stays);
                assertThat(SharedFolder.filesBelow(folder))
                        .extracting(SharedFolder.Entry::path)
                        .contains(stays);
            }
        } finally {
            done.set(true);
            other.join();
        }
    }

    private void comeAndGo(AtomicBoolean done) {
        try {
            while (!done.get()) {
                for (int i = 0; i < 20; i++) {
                    Files.createDirectories(folder.resolve("come-" + i));
                }
                for (int i = 0; i < 20; i++) {
                    Files.deleteIfExists(folder.resolve("come-" + i));
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
