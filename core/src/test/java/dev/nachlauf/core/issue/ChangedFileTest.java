package dev.nachlauf.core.issue;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Values;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ChangedFileTest {
    private static final List<String> FIELDS = List.of("code", "beds");
    private static final List<FieldDescription> DESCRIBED =
            List.of(FieldDescription.plain("code", Kind.TEXT), FieldDescription.plain("beds", Kind.INTEGER));

    @TempDir
    Path scratch;

    /** Rows in memory; what becomes of them is put together as a file would be. */
    private static final class Rows implements StandingFile {
        private final List<String[]> rows;
        private final List<String> result = new ArrayList<>();
        /** So many rows are not asked for when the file is made. */
        private int passedOver;

        Rows(List<String[]> rows) {
            this.rows = rows;
        }

        @Override
        public List<String> columns() {
            return List.of("note", "beds", "code");
        }

        @Override
        public SourceReader read() {
            Iterator<String[]> each = rows.iterator();
            return new SourceReader() {
                private int number;

                @Override
                public List<SourceField> fields() {
                    return columns().stream()
                            .map(name -> new SourceField(name, ""))
                            .toList();
                }

                @Override
                public List<Detected> options() {
                    return List.of();
                }

                @Override
                public @Nullable SourceRow next() {
                    number++;
                    return each.hasNext()
                            ? new SourceRow(number, new Origin("list", "", 2L * number, "", Map.of()), each.next())
                            : null;
                }

                @Override
                public void close() {
                    // nothing is open
                }
            };
        }

        @Override
        public void copy(RowEdits edits, OutputStream out) {
            for (int i = passedOver; i < rows.size(); i++) {
                RowEdits.Edit edit = edits.at("", 2L * (i + 1), "");
                @Nullable Object[] cells = rows.get(i).clone();
                for (int column = 0; edit != null && column < cells.length; column++) {
                    cells[column] = edit.changed().get(column) ? Values.text(edit.cells()[column]) : cells[column];
                }
                if (edit == null || !edit.gone()) {
                    result.add(line(cells));
                }
            }
            for (@Nullable Object[] added = edits.next(); added != null; added = edits.next()) {
                result.add(line(added));
            }
        }

        private static String line(@Nullable Object[] cells) {
            return cells[2] + " " + cells[1] + " " + cells[0];
        }
    }

    private static LedgerRow line(int number, Outcome outcome, String code, @Nullable Long beds) {
        BitSet changed = new BitSet();
        changed.set(outcome == Outcome.UPDATED ? 1 : 0, 2);
        @Nullable Object[] values = {code, beds};
        return new LedgerRow(
                number,
                number,
                number,
                0,
                "",
                number,
                outcome,
                outcome,
                true,
                true,
                "",
                new LedgerRow.Values(List.of(code), code, null, changed, values, values));
    }

    private long make(Rows file, List<LedgerRow> lines) throws IOException {
        RecordDescription records = new RecordDescription("list", true, DESCRIBED, List.of(), List.of());
        StandingRows rows = new StandingRows(file, records, List.of("code"), FIELDS);
        return new ChangedFile(rows, lines::iterator, scratch).make(OutputStream.nullOutputStream());
    }

    @Test
    void rowsChangeWhereTheyStandAndNewOnesComeLast() throws IOException {
        Rows file = new Rows(List.of(
                new String[] {"by hand", "8", "H-1"},
                new String[] {null, "9", "H-2"},
                new String[] {"no code", "1", null},
                new String[] {null, null, "H-3"}));
        long rows = make(
                file,
                List.of(
                        line(1, Outcome.INSERTED, "H-9", 5L),
                        line(2, Outcome.UPDATED, "H-3", 4L),
                        line(3, Outcome.DELETED, "H-1", 8L),
                        line(4, Outcome.UPDATED, "H-2", null)));
        assertThat(file.result).containsExactly("H-2 null null", "null 1 no code", "H-3 4 null", "H-9 5 null");
        assertThat(rows).isEqualTo(4);
    }

    /** Nothing that the ledger tells may be missing from the file. */
    @Test
    void aChangeThatFindsNoRowIsADefect() {
        Rows file = new Rows(List.of(new String[] {null, "9", "H-2"}, new String[] {null, "4", "H-3"}));
        assertThatThrownBy(() -> make(file, List.of(line(1, Outcome.UPDATED, "H-7", 4L))))
                .isInstanceOf(IllegalStateException.class)
                .hasMessageContaining("rows that change and are not in the file: 1");
        file.passedOver = 1;
        assertThatThrownBy(() -> make(file, List.of(line(1, Outcome.UPDATED, "H-2", 5L))))
                .isInstanceOf(IllegalStateException.class)
                .hasMessageContaining("a row that changes was not asked for");
    }

    /** More rows than are looked up at once, in any order. */
    @Test
    void isRightOverManyRows() throws IOException {
        Random random = new Random(20261130);
        Map<String, String> expected = new LinkedHashMap<>();
        List<String[]> stored = new ArrayList<>();
        IntStream.range(0, 3_500).forEach(i -> {
            stored.add(new String[] {"n" + i, String.valueOf(i), "H-" + i});
            expected.put("H-" + i, "H-" + i + " " + i + " n" + i);
        });
        List<LedgerRow> lines = new ArrayList<>();
        for (int i = 0; i < 2_000; i++) {
            int row = random.nextInt(6_000);
            String code = "H-" + row;
            boolean done = lines.stream().anyMatch(line -> code.equals(line.id()));
            if (done) {
                continue;
            }
            boolean gone = row < 3_500 && random.nextInt(4) == 0;
            Outcome outcome = row >= 3_500 ? Outcome.INSERTED : gone ? Outcome.DELETED : Outcome.UPDATED;
            lines.add(line(i + 1, outcome, code, -row - 1L));
            if (gone) {
                expected.remove(code);
            } else {
                expected.put(code, code + " " + (-row - 1L) + " " + (row < 3_500 ? "n" + row : null));
            }
        }
        Rows file = new Rows(stored);
        assertThat(make(file, lines)).isEqualTo(expected.size());
        assertThat(file.result).containsExactlyElementsOf(expected.values());
    }
}
