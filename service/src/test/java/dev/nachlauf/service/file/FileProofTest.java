package dev.nachlauf.service.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.ServiceUnderTest;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** A file that was just kept is believed; one that somebody wrote to since is not. */
class FileProofTest {
    @Test
    void aFileThatIsWrittenToAfterItWasKeptIsFound() throws IOException {
        try (ServiceUnderTest service = new ServiceUnderTest()) {
            FileStore files = service.bean(FileStore.class);
            byte[] huts = "code\nH-before\n".getBytes(StandardCharsets.UTF_8);
            String hash = files.keep("huts.csv", new ByteArrayInputStream(huts)).hash();
            assertThatCode(() -> files.verify(hash)).doesNotThrowAnyException();
            Files.writeString(kept(service.home(), hash), "code\nH-after\n");
            assertThatThrownBy(() -> files.verify(hash))
                    .isInstanceOfSatisfying(
                            CannotGoOn.class,
                            e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.FILE_MALFORMED));
        }
    }

    private static Path kept(Path home, String hash) throws IOException {
        try (Stream<Path> all = Files.walk(home)) {
            return all.filter(file -> file.getFileName().toString().contains(hash.substring(8)))
                    .findFirst()
                    .orElseThrow();
        }
    }
}
