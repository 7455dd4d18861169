package dev.nachlauf.core.source;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.value.Kind;
import java.io.IOException;
import java.io.OutputStream;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SpooledRecordsTest {
    @TempDir
    Path folder;

    /** Records 1, 2, 3 … of two fields. */
    private record Counting(int count, int[] at) implements RecordCursor {
        @Override
        public List<Field> fields() {
            return List.of(new Field("n", Kind.INTEGER), new Field("price", Kind.DECIMAL), new Field("day", Kind.DATE));
        }

        @Override
        public Object[] next() {
            return at[0] == count
                    ? null
                    : new Object[] {
                        (long) ++at[0], BigDecimal.valueOf(at[0], 2), at[0] % 2 == 0 ? null : LocalDate.EPOCH
                    };
        }

        @Override
        public void close() {
            // holds nothing
        }
    }

    @Test
    void givesBackWhatACursorGaveWithItsKinds() throws IOException {
        Path file = folder.resolve("spool");
        try (OutputStream out = Files.newOutputStream(file)) {
            assertThat(SpooledRecords.write(new Counting(5_000, new int[1]), out))
                    .isEqualTo(5_000);
        }
        try (SourceReader reader =
                new SpooledRecords().read(SourceBytes.of("register hut", file), FormatOptions.NONE)) {
            assertThat(reader.fields()).extracting(field -> field.name()).containsExactly("n", "price", "day");
            long count = 0;
            for (SourceRow row = reader.next(); row != null; row = reader.next()) {
                count++;
                assertThat(row.cells()[0]).isEqualTo(count);
                assertThat(row.cells()[1]).isEqualTo(BigDecimal.valueOf(count, 2));
                if (count == 4_001) {
                    assertThat(row.origin().text(reader.fields().get(1))).isEqualTo("register hut, record 4001, price");
                }
            }
            assertThat(count).isEqualTo(5_000);
        }
    }

    @Test
    void refusesAFileThatIsNoneOfIts() throws IOException {
        Path file = Files.writeString(folder.resolve("other"), "a;b\n");
        assertThatThrownBy(() -> new SpooledRecords().read(SourceBytes.of("x", file), FormatOptions.NONE))
                .isInstanceOf(CannotGoOn.class);
    }
}
