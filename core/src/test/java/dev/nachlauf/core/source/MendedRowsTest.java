package dev.nachlauf.core.source;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.MendedRows.Mended;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class MendedRowsTest {
    private static final Mended MOSS = new Mended(2, Arrays.asList("H-2", "Moss", "many"), Map.of("beds", "9"));
    private static final Mended FERN = new Mended(4, Arrays.asList("H-4", "Fern", "4"), Map.of());

    private static List<String> read(boolean others, Mended... mended) {
        Rows rows = new Rows(
                "huts.csv", "code;name;beds", List.of("H-1;Larch;8", "H-2;Moss;many", "H-3;;5", "H-4;Fern;4"), "");
        List<String> read = new ArrayList<>();
        try (MendedRows source = new MendedRows(rows, List.of(mended).iterator(), others)) {
            for (SourceRow row = source.next(); row != null; row = source.next()) {
                read.add(row.number() + " " + Arrays.toString(row.cells()));
            }
        }
        return read;
    }

    @Test
    void onlyTheseRowsAreReadWithTheirCorrections() {
        assertThat(read(false, MOSS, FERN)).containsExactly("2 [H-2, Moss, 9]", "4 [H-4, Fern, 4]");
    }

    @Test
    void theOthersMayBeReadAsWell() {
        assertThat(read(true, MOSS))
                .containsExactly("1 [H-1, Larch, 8]", "2 [H-2, Moss, 9]", "3 [H-3, null, 5]", "4 [H-4, Fern, 4]");
    }

    @Test
    void anEmptyCorrectionEmptiesTheCell() {
        Mended emptied = new Mended(1, Arrays.asList("H-1", "Larch", "8"), Map.of("name", "", "beds", "7"));
        assertThat(read(false, emptied)).containsExactly("1 [H-1, null, 7]");
    }

    @Test
    void aRowThatReadsOtherwiseNowIsNotSent() {
        assertThatThrownBy(() -> read(false, new Mended(2, Arrays.asList("H-2", "Moss", "lots"), Map.of())))
                .isInstanceOf(CannotGoOn.class)
                .hasMessageContaining("Row 2 reads otherwise now");
        assertThatThrownBy(() -> read(true, new Mended(9, List.of("H-9"), Map.of())))
                .hasMessageContaining("Row 9 is no longer there");
    }
}
