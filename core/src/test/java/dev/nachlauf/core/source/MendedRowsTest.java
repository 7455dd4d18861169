package dev.nachlauf.core.source;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.MendedRows.Mended;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
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

    /** A reader of a source that has types, as workbooks have. */
    private record Typed(List<@Nullable Object> cells, List<Problem> problems) implements SourceReader {
        @Override
        public List<SourceField> fields() {
            return List.of(new SourceField("opens", ""), new SourceField("beds", ""));
        }

        @Override
        public List<Detected> options() {
            return List.of();
        }

        @Override
        public SourceRow next() {
            return new SourceRow(1, Origin.line("huts.xlsx", 2), cells.toArray(), problems);
        }

        @Override
        public void close() {
            // nothing is open
        }
    }

    private static List<@Nullable Object> corrected(String opens, String beds) {
        Typed typed = new Typed(List.of(LocalDate.of(2026, 6, 1), new BigDecimal("8")), List.of());
        Mended mended = new Mended(1, List.of("2026-06-01", "8"), Map.of("opens", opens, "beds", beds));
        try (MendedRows source = new MendedRows(typed, List.of(mended).iterator(), false)) {
            return Arrays.asList(Objects.requireNonNull(source.next()).cells());
        }
    }

    @Test
    void inThePlaceOfAValueGoesAValue() {
        assertThat(corrected("2026-06-15", "12")).containsExactly(LocalDate.of(2026, 6, 15), new BigDecimal("12"));
        assertThat(corrected("15.06.2026", "a dozen"))
                .as("otherwise it is read as a text of the source would be")
                .containsExactly("15.06.2026", "a dozen");
        assertThat(corrected("", "12")).containsExactly(null, new BigDecimal("12"));
    }

    private static List<Problem> left(String column, Problem... problems) {
        Typed typed = new Typed(List.of("1 June", "#N/A"), List.of(problems));
        Mended mended = new Mended(1, List.of("1 June", "#N/A"), Map.of(column, "12"));
        try (MendedRows source = new MendedRows(typed, List.of(mended).iterator(), false)) {
            return Objects.requireNonNull(source.next()).problems();
        }
    }

    @Test
    void onlyWhatIsCorrectedIsNoLongerWrong() {
        Problem error = Problem.inField(ProblemCode.CELL_ERROR, "beds", "#N/A", "The cell holds an error.", "");
        Problem ragged = Problem.of(ProblemCode.ROW_RAGGED, "The row has 3 cells.", "");
        assertThat(left("beds", error)).isEmpty();
        assertThat(left("opens", error)).as("another cell was corrected").containsExactly(error);
        assertThat(left("beds", error, ragged))
                .as("no correction of a cell mends the row")
                .containsExactly(ragged);
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
