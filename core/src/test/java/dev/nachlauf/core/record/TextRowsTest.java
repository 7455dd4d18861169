package dev.nachlauf.core.record;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Rows as they were read, of texts and of typed values. */
class TextRowsTest {
    private static SourceRow cells(String path, @Nullable Object... cells) {
        return new SourceRow(1, new Origin("huts.json", "", 1, path), cells);
    }

    private static SourceRow text(@Nullable String... cells) {
        return new SourceRow(1, Origin.line("huts.csv", 2), RowTexts.of(cells));
    }

    private static TextRows rows(int width, SourceRow... rows) {
        TextRows.Builder builder = new TextRows.Builder(width, 1);
        for (SourceRow row : rows) {
            builder.add(row);
        }
        return builder.build();
    }

    @Test
    void aRowComesBackAsItWasRead() {
        TextRows rows = rows(
                3,
                text("H-1", null, "Hütte"),
                cells("/huts/0", "H-2", new BigDecimal("24.50"), null),
                text("H-3", "", "x"));
        assertThat(rows.cells(0)).containsExactly("H-1", null, "Hütte");
        assertThat(rows.cells(1)).containsExactly("H-2", "24.50", null);
        assertThat(rows.cells(2)).containsExactly("H-3", null, "x");
    }

    @Test
    void pathsAreThoseOfTheirRows() {
        TextRows rows = rows(1, cells("/huts/0", "H-1"), text("H-2"), cells("/huts/2", "H-3"));
        assertThat(rows.path(0)).isEqualTo("/huts/0");
        assertThat(rows.path(1)).isEmpty();
        assertThat(rows.path(2)).isEqualTo("/huts/2");
    }

    @Test
    void rowsMayBeShorterOrLongerThanMost() {
        TextRows rows =
                rows(2, text("a"), text("b", "c", "d"), cells("", "e"), cells("", "f", "g", "h", ""), text("i", "j"));
        assertThat(rows.cells(0)).containsExactly("a", null);
        assertThat(rows.cells(1)).containsExactly("b", "c", "d");
        assertThat(rows.cells(2)).containsExactly("e", null);
        assertThat(rows.cells(3)).containsExactly("f", "g", "h", "");
        assertThat(rows.cells(4)).containsExactly("i", "j");
    }
}
