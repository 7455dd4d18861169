package dev.nachlauf.connectors.database.postgresql;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.StoredRecord;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class KeyPlacesTest {
    /** The key is the second and the first field. */
    private static final Cells CELLS = new Cells(
            List.of(CellCodec.INT4, CellCodec.TEXT, CellCodec.TEXT),
            List.of(1, 0),
            List.of(CellCodec.INT8),
            CellCodec.INT4);

    private static RowBlock block(List<Object[]> rows) {
        RowBlock.Builder block = new RowBlock.Builder(3, rows.size());
        for (Object[] row : rows) {
            for (int field = 0; field < 3; field++) {
                block.add(row[field], CELLS.fields().get(field));
            }
        }
        return block.build();
    }

    private static KeyPlaces places(List<Object[]> rows) {
        return new KeyPlaces(
                block(rows),
                CELLS.key(),
                List.of(CellCodec.TEXT, CellCodec.INT4),
                IntStream.range(0, rows.size()).toArray());
    }

    private static StoredRecord stored(Object... values) {
        ByteSink out = new ByteSink(64);
        CellCodec.INT4.write(1L, out);
        CellCodec.INT8.write(2L, out);
        for (int field = 0; field < 3; field++) {
            CELLS.fields().get(field).write(values[field], out);
        }
        return new StoredRecord(CELLS).over(out.toArray(), 0);
    }

    @Test
    void eachRecordIsBroughtToItsRow() {
        Random random = new Random(5);
        List<Object[]> rows = new ArrayList<>();
        for (long i = 0; i < 3_000; i++) {
            rows.add(new Object[] {i - 1_500, "H-" + i / 3, "Hut " + i});
        }
        Collections.shuffle(rows, random);
        KeyPlaces places = places(rows);
        assertThat(places.isRepeated()).isFalse();
        for (int row = 0; row < rows.size(); row++) {
            assertThat(places.row(stored(rows.get(row)[0], rows.get(row)[1], "another name")))
                    .isEqualTo(row);
        }
        assertThat(places.row(stored(1L, "H-1", "x"))).isEqualTo(-1);
    }

    @Test
    void theLeastAndTheGreatestKeyAreKnownByAllTheirParts() {
        Random random = new Random(6);
        List<Object[]> rows = new ArrayList<>();
        for (int i = 0; i < 500; i++) {
            rows.add(new Object[] {(long) random.nextInt(), "H-" + random.nextInt(5), "x"});
        }
        Comparator<Object[]> order =
                Comparator.comparing((Object[] row) -> (String) row[1]).thenComparing(row -> (Long) row[0]);
        KeyPlaces places = places(rows);
        assertThat(rows.get(places.least())).isEqualTo(rows.stream().min(order).orElseThrow());
        assertThat(rows.get(places.greatest()))
                .isEqualTo(rows.stream().max(order).orElseThrow());
    }

    @Test
    void aKeyOfTwoRowsIsNoticed() {
        assertThat(places(List.of(new Object[] {1L, "H-1", "a"}, new Object[] {1L, "H-1", "b"}))
                        .isRepeated())
                .isTrue();
        assertThat(places(List.of(new Object[] {1L, "H-1", "a"}, new Object[] {2L, "H-1", "a"}))
                        .isRepeated())
                .isFalse();
    }
}
