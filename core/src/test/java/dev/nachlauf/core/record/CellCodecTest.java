package dev.nachlauf.core.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class CellCodecTest {
    private static final int ROUNDS = 5_000;

    private static byte[] cell(CellCodec codec, Object value) {
        ByteSink out = new ByteSink(8);
        codec.write(value, out);
        return out.toArray();
    }

    private static Object back(CellCodec codec, Object value) {
        return codec.read(cell(codec, value), 0);
    }

    private static boolean same(CellCodec codec, Object one, Object other) {
        return codec.same(cell(codec, one), 0, cell(codec, other), 0);
    }

    /** A value of the codec's kind; few different ones, so that equal ones meet. */
    private static Object value(CellCodec codec, Random random) {
        if (random.nextInt(10) == 0) {
            return null;
        }
        return switch (codec) {
            case ANY -> value(CellCodec.values()[1 + random.nextInt(9)], random);
            case TEXT ->
                List.of("", "a", "A", "Hütte", "a\0b", "\uD83D\uDE00", "x".repeat(300))
                        .get(random.nextInt(7));
            case TRUTH -> random.nextBoolean();
            case INT2 -> (long) (short) random.nextInt();
            case INT4 -> (long) random.nextInt();
            case INT8 -> random.nextBoolean() ? random.nextLong() : (long) random.nextInt(3);
            case DECIMAL -> decimal(random);
            case DATE -> LocalDate.of(2026, 5, 1).plusDays(random.nextInt(2_000_000) - 1_000_000);
            case TIME ->
                random.nextInt(9) == 0
                        ? LocalTime.MAX
                        : LocalTime.ofNanoOfDay(random.nextInt(86_400) * 1_000_000_000L + random.nextInt(9) * 1_000);
            case TIMESTAMP ->
                LocalDateTime.of(1999, 12, 31, 23, 59, 59, 123_456_000).plusSeconds(random.nextInt());
        };
    }

    private static BigDecimal decimal(Random random) {
        int scale = random.nextInt(7);
        BigInteger unscaled = random.nextInt(5) == 0
                ? new BigInteger(200, random).subtract(BigInteger.TWO.pow(199))
                : BigInteger.valueOf(random.nextInt(2_001) - 1_000);
        return new BigDecimal(unscaled, scale);
    }

    @Test
    void everyValueComesBackAsItWas() {
        Random random = new Random(17);
        for (CellCodec codec : CellCodec.values()) {
            for (int round = 0; round < ROUNDS; round++) {
                Object value = value(codec, random);
                assertThat(back(codec, value)).as(codec + " " + value).isEqualTo(value);
            }
        }
    }

    /** The plain twin: two cells are the same exactly where their values are. */
    @Test
    void cellsAreComparedAsTheirValuesAre() {
        Random random = new Random(18);
        int equal = 0;
        for (CellCodec codec : CellCodec.values()) {
            for (int round = 0; round < ROUNDS; round++) {
                Object one = value(codec, random);
                Object other = random.nextInt(4) == 0 ? one : value(codec, random);
                boolean same = Values.same(one, other);
                equal += same ? 1 : 0;
                assertThat(same(codec, one, other))
                        .as(codec + " " + one + " and " + other)
                        .isEqualTo(same);
            }
        }
        assertThat(equal).isGreaterThan(ROUNDS);
    }

    @Test
    void aNumberIsTheSameWhateverDecimalsItShows() {
        assertThat(same(CellCodec.DECIMAL, new BigDecimal("24.5"), new BigDecimal("24.50")))
                .isTrue();
        assertThat(same(CellCodec.DECIMAL, new BigDecimal("24.5"), new BigDecimal("24.51")))
                .isFalse();
        assertThat(same(CellCodec.ANY, 8L, new BigDecimal("8.0"))).isTrue();
        assertThat(back(CellCodec.DECIMAL, "NaN")).isEqualTo("NaN");
        assertThat(back(CellCodec.DECIMAL, "-Infinity")).isEqualTo("-Infinity");
        assertThat(back(CellCodec.DECIMAL, 12L)).isEqualTo(new BigDecimal("12"));
    }

    @Test
    void valuesAtTheEdgesComeBack() {
        assertThat(back(CellCodec.TEXT, "Föhren 𝄞")).isEqualTo("Föhren 𝄞");
        assertThat(back(CellCodec.TEXT, 8L)).as("other values as their text").isEqualTo("8");
        assertThat(back(CellCodec.INT4, (long) Integer.MIN_VALUE)).isEqualTo((long) Integer.MIN_VALUE);
        assertThat(back(CellCodec.INT8, Long.MIN_VALUE)).isEqualTo(Long.MIN_VALUE);
        assertThat(back(CellCodec.DATE, LocalDate.of(1582, 10, 4))).isEqualTo(LocalDate.of(1582, 10, 4));
        assertThat(back(CellCodec.TIME, LocalTime.MAX)).as("24:00 elsewhere").isEqualTo(LocalTime.MAX);
        LocalDateTime early = LocalDateTime.of(1969, 12, 31, 23, 59, 59, 1_000);
        assertThat(back(CellCodec.TIMESTAMP, early)).isEqualTo(early);
    }

    @Test
    void blanksAreNullAndEmptyTexts() {
        assertThat(CellCodec.TEXT.isBlank(cell(CellCodec.TEXT, ""), 0)).isTrue();
        assertThat(CellCodec.ANY.isBlank(cell(CellCodec.ANY, ""), 0)).isTrue();
        assertThat(CellCodec.INT8.isBlank(cell(CellCodec.INT8, null), 0)).isTrue();
        assertThat(CellCodec.INT8.isBlank(cell(CellCodec.INT8, 0L), 0)).isFalse();
        assertThat(CellCodec.TEXT.isBlank(cell(CellCodec.TEXT, " "), 0)).isFalse();
    }

    @Test
    void eachHasATagOfItsOwn() {
        List<Byte> tags = new ArrayList<>();
        for (CellCodec codec : CellCodec.values()) {
            tags.add(codec.tag());
            assertThat(CellCodec.of(codec.tag())).isEqualTo(codec);
        }
        assertThat(tags).doesNotHaveDuplicates();
        assertThatThrownBy(() -> CellCodec.of((byte) 99)).hasMessageContaining("unknown codec");
    }

    @Test
    void aBlockGivesBackItsRowsCellByCell() {
        Random random = new Random(19);
        CellCodec[] codecs = CellCodec.values();
        RowBlock.Builder builder = new RowBlock.Builder(codecs.length, 2);
        List<Object[]> rows = new ArrayList<>();
        for (int i = 0; i < 100; i++) {
            Object[] row = new Object[codecs.length];
            for (int column = 0; column < row.length; column++) {
                row[column] = value(codecs[column], random);
                builder.add(row[column], codecs[column]);
            }
            rows.add(row);
        }
        RowBlock block = builder.build();
        assertThat(block.rows()).isEqualTo(100);
        for (int i = 0; i < 100; i++) {
            for (int column = 0; column < codecs.length; column++) {
                assertThat(block.value(i, column, codecs[column])).isEqualTo(rows.get(i)[column]);
                assertThat(block.isNull(i, column)).isEqualTo(rows.get(i)[column] == null);
                assertThat(block.end(i, column)).isEqualTo(CellCodec.end(block.data(), block.at(i, column)));
            }
        }
        RowBlock.Builder copies = new RowBlock.Builder(1, 1);
        copies.add(block.data(), block.at(7, 6));
        assertThat(copies.build().value(0, 0, CellCodec.DECIMAL)).isEqualTo(rows.get(7)[6]);
    }

    @Test
    void smallNumbersNeedFewBytesAndAllComeBack() {
        ByteSink out = new ByteSink(8);
        long[] numbers = {0, 1, -1, 63, -64, 64, 1_000_000, Long.MAX_VALUE, Long.MIN_VALUE};
        for (long number : numbers) {
            out.varint(number);
        }
        ByteSource in = new ByteSource(out.toArray(), 0, out.size());
        for (long number : numbers) {
            assertThat(in.varint()).isEqualTo(number);
        }
        out.clear();
        out.varint(63);
        assertThat(out.size()).isEqualTo(1);
        assertThatThrownBy(() -> in.byte1()).hasMessageContaining("damaged");
    }
}
