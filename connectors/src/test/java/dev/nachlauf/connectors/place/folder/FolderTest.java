package dev.nachlauf.connectors.place.folder;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.HoldsFiles.FoundFile;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.TakesFiles;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class FolderTest {
    @TempDir
    Path folder;

    private HoldsFiles open(String path) {
        return (HoldsFiles) new FolderType().open(new Settings(Map.of("path", path), reference -> ""));
    }

    @Test
    void findsFilesByPatternInOrderAndNothingElse() throws IOException {
        Files.writeString(folder.resolve("list-b.csv"), "bb");
        Files.writeString(folder.resolve("list-a.csv"), "a");
        Files.writeString(folder.resolve("other.csv"), "");
        Files.createDirectory(folder.resolve("list-c.csv"));
        Files.createSymbolicLink(folder.resolve("list-d.csv"), Path.of("/etc/hostname"));
        try (HoldsFiles files = open(folder.toString())) {
            assertThat(files.find("list-?.csv"))
                    .extracting(FoundFile::name)
                    .containsExactly("list-a.csv", "list-b.csv");
            assertThat(files.find("list-*.csv").get(1).size()).isEqualTo(2);
            assertThat(files.find("[a-z]*.csv")).isEmpty();
        }
    }

    @Test
    void deliversAFileWholeOrNotAtAll(@TempDir Path local) throws IOException {
        Path content = Files.writeString(local.resolve("made"), "first");
        try (HoldsFiles files = open(folder.toString())) {
            TakesFiles place = (TakesFiles) files;
            place.put("out.txt", content);
            place.put("out.txt", Files.writeString(content, "second"));
            assertThat(folder.resolve("out.txt")).hasContent("second");
            assertThat(folder).isDirectoryNotContaining("glob:**unfinished");
            assertThatThrownBy(() -> place.put("../out.txt", content)).isInstanceOf(CannotGoOn.class);
            assertThatThrownBy(() -> place.put(".out", content)).isInstanceOf(CannotGoOn.class);
            Files.delete(content);
            assertThatThrownBy(() -> place.put("out.txt", content)).isInstanceOf(CannotGoOn.class);
            assertThat(folder.resolve("out.txt"))
                    .as("what was there is there still")
                    .hasContent("second");
        }
    }

    @Test
    void noPatternLeadsOutOfTheFolder() {
        try (HoldsFiles files = open(folder.toString())) {
            assertThatThrownBy(() -> files.find("../*.csv")).isInstanceOf(CannotGoOn.class);
            assertThatThrownBy(() -> files.find("/etc/passwd")).isInstanceOf(CannotGoOn.class);
        }
    }

    @Test
    void saysWhatIsWrongWithTheFolder() {
        assertThatThrownBy(() -> open(folder.resolve("nowhere").toString()).greet())
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.FILE_MISSING));
        assertThatThrownBy(() -> open("relative").greet())
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.SETTING_MALFORMED));
    }
}
