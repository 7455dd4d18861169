package dev.nachlauf.connectors.format.packed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.SourceBytes;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class PackedTest {
    @TempDir
    Path folder;

    private SourceBytes zip(Map<String, String> files) throws IOException {
        Path path = folder.resolve("delivery.zip");
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(path))) {
            for (Map.Entry<String, String> file : new TreeMap<>(files).entrySet()) {
                zip.putNextEntry(new ZipEntry(file.getKey()));
                zip.write(file.getValue().getBytes(StandardCharsets.UTF_8));
            }
        }
        return SourceBytes.of("delivery.zip", path);
    }

    private static String text(SourceBytes bytes) throws IOException {
        try (InputStream in = bytes.open()) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
    }

    @Test
    void givesTheFilesOfAnArchiveByNameWithoutTheirFolders() throws IOException {
        List<SourceBytes> members = new Zip()
                .members(zip(Map.of("b.csv", "two", "in/../../a.csv", "one", "__MACOSX/x", "no")), folder)
                .orElseThrow();
        assertThat(members).extracting(SourceBytes::file).containsExactly("a.csv", "b.csv");
        assertThat(text(members.get(0))).isEqualTo("one");
        assertThat(Files.readString(members.get(1).path())).isEqualTo("two");
        assertThat(members.get(1).path().getParent()).isEqualTo(folder);
    }

    @Test
    void filesOfOneNameInTwoFoldersAreTwo() throws IOException {
        List<SourceBytes> members = new Zip()
                .members(zip(Map.of("north/list.csv", "N-1", "south/list.csv", "S-1", "all.csv", "A-1")), folder)
                .orElseThrow();
        assertThat(members)
                .extracting(SourceBytes::id)
                .containsExactlyInAnyOrder("all.csv", "north/list.csv", "south/list.csv");
        assertThat(members)
                .extracting(SourceBytes::file)
                .as("the folder is shown where the name alone is not clear")
                .containsExactlyInAnyOrder("all.csv", "north/list.csv", "south/list.csv");
        for (SourceBytes member : members) {
            assertThat(text(member)).startsWith(member.id().substring(0, 1).toUpperCase(java.util.Locale.ROOT));
        }
    }

    @Test
    void twoFilesOfOneNameInOneFolderAreRefused() throws IOException {
        SourceBytes twins = zip(Map.of("north/list1.csv", "N-1", "north/list2.csv", "N-2"));
        byte[] bytes = Files.readAllBytes(twins.path());
        String text = new String(bytes, StandardCharsets.ISO_8859_1).replace("list2", "list1");
        Files.write(twins.path(), text.getBytes(StandardCharsets.ISO_8859_1));
        assertThatThrownBy(() -> new Zip().members(twins, folder))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().sentence())
                                .isEqualTo("The archive delivery.zip holds two files north/list1.csv."));
    }

    @Test
    void givesTheFileInsideOfGzip() throws IOException {
        Path path = folder.resolve("stays.csv.gz");
        try (OutputStream out = new GZIPOutputStream(Files.newOutputStream(path))) {
            out.write("a;b\n1;2\n".getBytes(StandardCharsets.UTF_8));
        }
        SourceBytes member = new Gzip()
                .members(SourceBytes.of("stays.csv.gz", path), folder)
                .orElseThrow()
                .getFirst();
        assertThat(member.file()).isEqualTo("stays.csv");
        assertThat(text(member)).isEqualTo("a;b\n1;2\n");
        byte[] half = java.util.Arrays.copyOf(Files.readAllBytes(path), (int) Files.size(path) - 6);
        Files.write(path, half);
        assertThatThrownBy(() -> text(member)).isInstanceOf(CannotGoOn.class);
    }

    @Test
    void leavesWorkbooksAndPlainFilesAlone() throws IOException {
        assertThat(new Zip().members(zip(Map.of("[Content_Types].xml", "", "xl/a.xml", "")), folder))
                .isEmpty();
        Path plain = Files.writeString(folder.resolve("a.csv"), "a;b\n");
        assertThat(new Zip().members(SourceBytes.of("a.csv", plain), folder)).isEmpty();
        assertThat(new Gzip().members(SourceBytes.of("a.csv", plain), folder)).isEmpty();
    }

    @Test
    void refusesArchivesOfNothingAndDamagedOnes() throws IOException {
        SourceBytes nothing = zip(Map.of("folder/", ""));
        assertThatThrownBy(() -> new Zip().members(nothing, folder)).isInstanceOf(CannotGoOn.class);
        Path damaged = folder.resolve("damaged.zip");
        Files.write(damaged, new byte[] {'P', 'K', 3, 4, 0, 0, 1, 2, 3});
        assertThatThrownBy(() -> new Zip().members(SourceBytes.of("damaged.zip", damaged), folder))
                .isInstanceOf(CannotGoOn.class);
    }

    @Test
    void whatUnpacksToTooMuchIsStopped() throws IOException {
        byte[] bytes = new byte[1_001];
        assertThatThrownBy(() -> new BoundedExpansion("x", new ByteArrayInputStream(bytes), 1, 1_000).readAllBytes())
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.FILE_TOO_LARGE));
        assertThat(new BoundedExpansion("x", new ByteArrayInputStream(bytes), 1, 1_001).readAllBytes())
                .hasSize(1_001);
        assertThat(new BoundedExpansion("x", new ByteArrayInputStream(bytes), 5, 1_000).readAllBytes())
                .as("250 times the packed size is allowed")
                .hasSize(1_001);
    }
}
