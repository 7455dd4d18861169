package dev.nachlauf.core.spool;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DiskTest {
    @TempDir
    Path folder;

    @Test
    void aFullDiskIsNoDefectAndPassesWhenThereIsRoom() {
        RuntimeException failure = Disk.failure(new IOException("No space left on device"), folder);
        assertThat(failure).isInstanceOfSatisfying(CannotGoOn.class, full -> {
            assertThat(full.isTemporary()).isTrue();
            assertThat(full.problems().getFirst().code()).isEqualTo(ProblemCode.DISK_FULL);
            assertThat(full.problems().getFirst().sentence()).contains(folder.toString());
        });
    }

    @Test
    void anyOtherFailureIsOne() {
        assertThat(Disk.failure(new IOException("Input/output error"), folder))
                .isInstanceOf(UncheckedIOException.class);
    }

    @Test
    void foldersAreForced() throws IOException {
        Path file = Files.writeString(folder.resolve("rows"), "rows");
        Disk.forceEntries(folder);
        assertThat(file).hasContent("rows");
    }
}
