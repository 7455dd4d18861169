package dev.nachlauf.core.spool;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.github.luben.zstd.ZstdOutputStream;
import dev.nachlauf.core.problem.CannotGoOn;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class RowFileTest {
    @TempDir
    Path folder;

    @Test
    void givesBackRowsInOrderAndTheLastWordBehindThem() {
        Path file = folder.resolve("rows");
        try (RowFile.Writer writer = new RowFile.Writer(file)) {
            for (int i = 0; i < 5_000; i++) {
                writer.add(("row " + i).getBytes());
            }
            assertThat(file).as("has its name only when it is complete").doesNotExist();
            writer.finish("5000".getBytes());
        }
        int count = 0;
        try (RowFile.Reader reader = new RowFile.Reader(file)) {
            for (byte[] row = reader.next(); row != null; row = reader.next()) {
                assertThat(new String(row)).isEqualTo("row " + count++);
            }
            assertThat(reader.next()).isNull();
            assertThat(new String(reader.lastWord())).isEqualTo("5000");
        }
        assertThat(count).isEqualTo(5_000);
    }

    @Test
    void aFileOfAnotherVersionIsRefused() throws IOException {
        Path file = folder.resolve("rows");
        try (OutputStream out = new ZstdOutputStream(Files.newOutputStream(file))) {
            // as versions without a version wrote it: the length of the first row
            out.write(new byte[] {0, 0, 0, 3, 'r', 'o', 'w'});
        }
        assertThatThrownBy(() -> new RowFile.Reader(file))
                .isInstanceOf(CannotGoOn.class)
                .hasMessageContaining("another version");
    }

    @Test
    void aFileOfAnEarlierVersionIsReadStill() throws IOException {
        Path file = folder.resolve("rows");
        try (DataOutputStream out = new DataOutputStream(new ZstdOutputStream(Files.newOutputStream(file)))) {
            out.writeByte(1);
            out.writeInt(3);
            out.writeBytes("row");
            out.writeInt(-1);
            out.writeInt(4);
            out.writeBytes("last");
        }
        try (RowFile.Reader reader = new RowFile.Reader(file)) {
            assertThat(new String(reader.next())).isEqualTo("row");
            assertThat(reader.next()).isNull();
            assertThat(new String(reader.lastWord())).isEqualTo("last");
        }
    }

    @Test
    void whatIsNotFinishedLeavesNothing() {
        Path file = folder.resolve("rows");
        try (RowFile.Writer writer = new RowFile.Writer(file)) {
            writer.add("row".getBytes());
        }
        assertThat(file).doesNotExist();
        assertThat(Files.exists(folder.resolve("rows.part"))).isFalse();
    }
}
