package dev.nachlauf.connectors.format.workbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A small archive that would fill the memory is refused before anything of it is kept. */
class WorkbookBoundsTest {
    private static final int MEGABYTE = 1 << 20;
    private static final int TEXTS = 8 * MEGABYTE;

    @TempDir
    Path folder;

    private Path workbook;

    @BeforeEach
    void write() throws IOException {
        workbook = folder.resolve("huts.xlsx");
        try (OutputStream out = Files.newOutputStream(workbook);
                ZipOutputStream zip = new ZipOutputStream(out)) {
            part(zip, "xl/sharedStrings.xml", TEXTS);
            part(zip, "xl/worksheets/sheet1.xml", 4 * TEXTS);
            part(zip, "xl/media/map.png", 4 * TEXTS);
        }
        assertThat(Files.size(workbook)).isLessThan(MEGABYTE);
    }

    private static void part(ZipOutputStream zip, String name, int size) throws IOException {
        zip.putNextEntry(new ZipEntry(name));
        zip.write(new byte[size]);
        zip.closeEntry();
    }

    @Test
    void textsAreCountedAsTheyUnpack() {
        assertThatThrownBy(() -> WorkbookBounds.check("huts.xlsx", workbook, TEXTS - 1))
                .isInstanceOfSatisfying(CannotGoOn.class, e -> {
                    assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.FILE_TOO_LARGE);
                    assertThat(e.problems().getFirst().sentence())
                            .isEqualTo("The workbook huts.xlsx unpacks to more than 7 MB of texts.");
                });
    }

    @Test
    void sheetsAndPicturesDontCountForTheyAreNotHeld() {
        assertThatCode(() -> WorkbookBounds.check("huts.xlsx", workbook, TEXTS)).doesNotThrowAnyException();
    }

    @Test
    void aSizeThatTheArchiveClaimsIsNotBelieved() throws IOException {
        byte[] bytes = Files.readAllBytes(workbook);
        // the uncompressed size of the first part, in the directory at the end (APPNOTE 4.3.12)
        int directory = indexOf(bytes, new byte[] {'P', 'K', 1, 2});
        for (int i = 0; i < 4; i++) {
            bytes[directory + 24 + i] = 0;
        }
        Files.write(workbook, bytes);
        assertThatThrownBy(() -> WorkbookBounds.check("huts.xlsx", workbook, MEGABYTE))
                .isInstanceOf(CannotGoOn.class);
    }

    private static int indexOf(byte[] bytes, byte[] mark) {
        int at = 0;
        while (!java.util.Arrays.equals(bytes, at, at + mark.length, mark, 0, mark.length)) {
            at++;
        }
        return at;
    }
}
