package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.service.NachlaufSettings;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Attempts keep out of each other's folders, also one that slept and was taken over. */
class RunScratchTest {
    @TempDir
    Path home;

    private RunScratch scratch;

    @BeforeEach
    void open() {
        Duration any = Duration.ofSeconds(1);
        scratch = new RunScratch(new NachlaufSettings(
                home, List.of(), List.of(), List.of(), any, any, any, any, any, any, 100, Set.of()));
    }

    private Path shapedBy(long epoch) throws IOException {
        scratch.prepare(7, epoch, OptionalLong.empty());
        return Files.writeString(scratch.shaped(7, epoch), "rows of attempt " + epoch);
    }

    @Test
    void anAttemptThatWakesUpLateLeavesTheLaterOneAlone() throws IOException {
        shapedBy(3);
        Path live = shapedBy(4);
        scratch.prepare(7, 3, OptionalLong.empty());
        assertThat(live).hasContent("rows of attempt 4");
    }

    @Test
    void whatIsReadFromStaysAndTheRestOfEarlierAttemptsGoes() throws IOException {
        Path read = shapedBy(1);
        scratch.prepare(7, 2, OptionalLong.of(1));
        Path left = Files.writeString(scratch.shaped(7, 2).resolveSibling("sorted.piece"), "half done");
        scratch.prepare(7, 3, OptionalLong.of(1));
        assertThat(read).hasContent("rows of attempt 1");
        assertThat(left).doesNotExist();
        assertThat(scratch.shaped(7, 3).getParent()).isEmptyDirectory();
    }

    @Test
    void nothingStaysOfARunThatHasEnded() throws IOException {
        Path file = shapedBy(1);
        scratch.remove(7);
        scratch.remove(7);
        assertThat(file.getParent().getParent()).doesNotExist();
    }
}
