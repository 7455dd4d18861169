package dev.nachlauf.connectors.format.delimited;

import de.siegmar.fastcsv.reader.CloseableIterator;
import de.siegmar.fastcsv.reader.CommentStrategy;
import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.core.record.RowText;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Iterator;
import java.util.List;
import java.util.Objects;
import java.util.function.BooleanSupplier;
import java.util.stream.IntStream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.jspecify.annotations.Nullable;

/**
 * Rows of a delimited text as a library takes them apart: the quick one, or, where an escape character makes that one
 * unable, the one that knows escapes. Lines before the table are passed over unparsed, for a title may hold anything.
 */
abstract sealed class Records implements AutoCloseable permits Records.Quick, Records.Escaped, SlicedRecords {
    /** Bounds what a quote that never ends can cost, in characters. */
    static final int LONGEST_FIELD = 4_000_000;

    /** One row; in the place of fields that nobody needs stand empty texts. */
    static final class Fields {
        private final long line;
        private final @Nullable List<String> cells;
        private final @Nullable RowText text;
        private final Marks marks;

        private Fields(long line, @Nullable List<String> cells, @Nullable RowText text, Marks marks) {
            this.line = line;
            this.cells = cells;
            this.text = text;
            this.marks = marks;
        }

        Fields(long line, List<String> cells, Marks marks) {
            this(line, cells, null, marks);
        }

        Fields(long line, RowText text, Marks marks) {
            this(line, null, text, marks);
        }

        /** Where it starts, from 1. */
        long line() {
            return line;
        }

        /** What is to be known of all fields, needed or not. */
        Marks marks() {
            return marks;
        }

        /** The fields as bytes; null where only their texts are known. */
        @Nullable
        RowText text() {
            return text;
        }

        int size() {
            return text == null ? cells().size() : text.width();
        }

        /** The fields as texts. */
        List<String> cells() {
            return cells == null ? texts(Objects.requireNonNull(text)) : cells;
        }

        /** The first field as text. */
        String first() {
            return text == null ? cells().getFirst() : Objects.requireNonNullElse(text.text(0), "");
        }

        private static List<String> texts(RowText text) {
            return IntStream.range(0, text.width())
                    .mapToObj(column -> Objects.requireNonNullElse(text.text(column), ""))
                    .toList();
        }

        static Fields of(long line, List<String> cells) {
            boolean blank = true;
            boolean broken = false;
            boolean lines = false;
            for (String cell : cells) {
                blank &= cell.isBlank();
                broken |= cell.indexOf(DecodedText.REPLACEMENT) >= 0;
                lines |= cell.indexOf('\n') >= 0 || cell.indexOf('\r') >= 0;
            }
            boolean endsInLines = cells.getLast().indexOf('\n') >= 0;
            return new Fields(line, cells, new Marks(blank, broken, lines, endsInLines));
        }
    }

    /**
     * What is to be known of a row.
     *
     * @param blank all its fields are blank
     * @param broken some field holds a character that could not be decoded
     * @param lines some field holds a line break
     * @param endsInLines the last one does
     */
    record Marks(boolean blank, boolean broken, boolean lines, boolean endsInLines) {}

    /** The text can't be taken apart from here on. */
    static final class Malformed extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Malformed(Throwable cause) {
            super(cause);
        }

        Malformed(String message) {
            super(message);
        }
    }

    /** Takes a text apart by its bytes where these can be told apart without decoding them, else by its characters. */
    static Records open(DecodedText text, Tail characters, Layout layout) {
        return SlicedRecords.canRead(text.charset(), layout)
                ? new SlicedRecords(text.bytes(), text.charset(), layout)
                : ofCharacters(characters, layout);
    }

    static Records ofCharacters(Tail text, Layout layout) {
        int skip = before(layout);
        Reader rows = passOver(text, layout);
        return layout.escape() == Layout.NONE
                ? new Quick(rows, layout, skip, text::isBroken)
                : new Escaped(rows, layout, skip);
    }

    /** How many lines stand before the table. */
    static int before(Layout layout) {
        return Math.max(layout.skip(), layout.headerRow() - 1);
    }

    /** The text behind the lines that stand before the table. */
    static Reader passOver(Reader text, Layout layout) {
        BufferedReader lines = new BufferedReader(text);
        try {
            int skipped = 0;
            while (skipped < before(layout) && lines.readLine() != null) {
                skipped++;
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return lines;
    }

    /** From now on other fields may be given as empty texts. */
    void needOnly(BitSet fields) {
        // a library that can't leave them out gives them all
    }

    /** Whether it is known that a quote of the last row never ends; where it isn't, the text has to be looked at again. */
    boolean endsInQuotes() {
        return false;
    }

    /** Whether the end of the text can be judged by {@link #endsInQuotes} alone. */
    boolean knowsItsEnd() {
        return false;
    }

    /** The next row; null at the end. Blank lines are no rows. */
    abstract @Nullable Fields next();

    @Override
    public abstract void close();

    static final class Quick extends Records {
        private final FieldTaker taker;
        private final CsvReader<Fields> csv;
        private final CloseableIterator<Fields> records;

        Quick(Reader text, Layout layout, int skipped, BooleanSupplier someBroken) {
            var builder = CsvReader.builder()
                    .quoteCharacter(layout.quote())
                    .maxBufferSize(LONGEST_FIELD)
                    .skipEmptyLines(true)
                    .allowExtraFields(true)
                    .allowMissingFields(true);
            if (layout.delimiter().length() == 1) {
                builder.fieldSeparator(layout.delimiter().charAt(0));
            } else {
                builder.fieldSeparator(layout.delimiter());
            }
            if (layout.comment() != Layout.NONE) {
                builder.commentStrategy(CommentStrategy.SKIP).commentCharacter(layout.comment());
            }
            this.taker = new FieldTaker(skipped, someBroken);
            this.csv = builder.build(taker, text);
            this.records = csv.iterator();
        }

        @Override
        void needOnly(BitSet fields) {
            taker.needOnly(fields);
        }

        @Override
        @Nullable
        Fields next() {
            try {
                return records.hasNext() ? records.next() : null;
            } catch (CsvParseException e) {
                throw new Malformed(e);
            }
        }

        @Override
        public void close() {
            try {
                csv.close();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }

    static final class Escaped extends Records {
        private final CSVParser parser;
        private final Iterator<CSVRecord> records;
        private final int skipped;
        private long lastLine;

        Escaped(Reader text, Layout layout, int skipped) {
            CSVFormat format = CSVFormat.DEFAULT
                    .builder()
                    .setDelimiter(layout.delimiter())
                    .setQuote(layout.quote() == Layout.NONE ? null : (Character) layout.quote())
                    .setEscape(layout.escape())
                    .setCommentMarker(layout.comment() == Layout.NONE ? null : (Character) layout.comment())
                    .setIgnoreEmptyLines(true)
                    .get();
            try {
                this.parser =
                        CSVParser.builder().setReader(text).setFormat(format).get();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
            this.records = parser.iterator();
            this.skipped = skipped;
        }

        @Override
        @Nullable
        Fields next() {
            if (!more()) {
                return null;
            }
            CSVRecord record = records.next();
            String[] values = record.values();
            long breaks = 0;
            for (String value : values) {
                breaks += value.chars().filter(c -> c == '\n').count();
            }
            lastLine = Math.max(lastLine + 1, parser.getCurrentLineNumber() - breaks);
            return Fields.of(lastLine + skipped, Arrays.asList(values));
        }

        private boolean more() {
            try {
                return records.hasNext();
            } catch (UncheckedIOException | IllegalStateException e) {
                throw new Malformed(e);
            }
        }

        @Override
        public void close() {
            try {
                parser.close();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }
}
