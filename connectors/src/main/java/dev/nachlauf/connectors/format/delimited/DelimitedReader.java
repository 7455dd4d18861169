package dev.nachlauf.connectors.format.delimited;

import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.connectors.format.heading.Heading;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.RowText;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.system.SourceFormat.Trailer;
import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Reads one delimited file. A row that can't be what the header says is given with its problem, and reading goes on. */
final class DelimitedReader implements SourceReader {
    static final int MOST_FIELDS = 4_096;
    private static final int SHOWN = 40;

    private final String file;
    private final SourceBytes bytes;
    private final FormatOptions stated;
    private final DecodedText text;
    private final Layout layout;
    private final Tail tail;
    private final Records records;
    private final List<Detected> options = new ArrayList<>();
    private final List<SourceField> fields = new ArrayList<>();
    private Records.@Nullable Fields ahead;
    private Records.@Nullable Fields last;
    private @Nullable Trailer trailer;
    private long number;

    private DelimitedReader(SourceBytes bytes, FormatOptions stated, DecodedText text, Layout layout) {
        this.file = bytes.file();
        this.bytes = bytes;
        this.stated = stated;
        this.text = text;
        this.layout = layout;
        this.tail = new Tail(text.reader());
        this.records = Records.open(text, tail, layout);
        options.addAll(layout.options());
        options.add(text.encoding());
        header();
    }

    static DelimitedReader open(SourceBytes bytes, FormatOptions options) {
        try {
            DecodedText text = DecodedText.open(bytes, options);
            try {
                return new DelimitedReader(bytes, options, text, Layout.of(options, text.start()));
            } catch (RuntimeException e) {
                text.reader().close();
                throw e;
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private void header() {
        Records.Fields first = record();
        if (first == null) {
            throw new CannotGoOn(Problem.at(
                    new Place.InFile(file, Math.max(1, layout.headerRow())),
                    layout.headerRow() > 1 ? ProblemCode.FILE_HEADER : ProblemCode.FILE_EMPTY,
                    layout.headerRow() > 1
                            ? "The file ends before the header row " + layout.headerRow() + "."
                            : "The file has no rows.",
                    "Check header-row, or ask the sender for the file again."));
        }
        Heading heading;
        if (layout.headerRow() == 0) {
            ahead = first;
            heading = Heading.numbered(first.cells().size());
        } else {
            check(first);
            heading = Heading.of(first.cells());
        }
        heading.detected().ifPresent(options::add);
        for (String name : heading.names()) {
            fields.add(new SourceField(name, "field " + (fields.size() + 1)));
        }
    }

    /** A header in the wrong encoding or with the wrong delimiter would make every row wrong. */
    private void check(Records.Fields header) {
        List<Problem> problems = new ArrayList<>();
        Place place = new Place.InFile(file, header.line());
        if (header.cells().stream().anyMatch(name -> name.indexOf(DecodedText.REPLACEMENT) >= 0)) {
            problems.add(text.wrongEncoding(place, "The header"));
        }
        String only = header.cells().getFirst();
        if (header.cells().size() == 1) {
            for (char other : new char[] {';', ',', '\t', '|'}) {
                if (Layout.count(only, other, layout.quote()) > 0) {
                    problems.add(Problem.at(
                            place,
                            ProblemCode.FILE_HEADER,
                            "With the delimiter '"
                                    + (layout.delimiter().equals("\t") ? "tab" : layout.delimiter())
                                    + "' the header is one single field: " + shortened(only),
                            "The delimiter is probably '" + FormatOptions.shown(other)
                                    + "': correct it, or leave it out and it is detected."));
                    break;
                }
            }
        }
        if (!problems.isEmpty()) {
            throw new CannotGoOn(problems);
        }
    }

    private static String shortened(String text) {
        return text.length() <= SHOWN ? text : text.substring(0, SHOWN) + "…";
    }

    @Override
    public List<SourceField> fields() {
        return fields;
    }

    @Override
    public List<Detected> options() {
        return options;
    }

    /** The first field tells where the closing line is; rows that have to be padded are looked at whole. */
    @Override
    public void needOnly(BitSet columns) {
        if (layout.trailer().isEmpty() && !layout.pad()) {
            records.needOnly(columns);
        }
    }

    @Override
    public Optional<Trailer> trailer() {
        return Optional.ofNullable(trailer);
    }

    @Override
    public @Nullable SourceRow next() {
        Records.Fields record = ahead == null ? record() : ahead;
        ahead = null;
        if (record == null) {
            return null;
        }
        if (!layout.trailer().isEmpty() && record.first().strip().equals(layout.trailer())) {
            ahead = record();
            if (ahead == null) {
                trailer = new Trailer(Origin.line(file, record.line()).text(), record.cells());
                return null;
            }
        }
        if (ahead == null && record.marks().endsInLines()) {
            // a row of several lines may be one that never ends, which shows at the end of the text
            ahead = record();
        }
        number++;
        RowText text = record.text();
        return text != null && text.width() == fields.size() && !record.marks().broken()
                ? new SourceRow(number, Origin.line(file, record.line()), text)
                : row(record);
    }

    private SourceRow row(Records.Fields record) {
        List<String> found = record.cells();
        int width = fields.size();
        @Nullable Object[] cells = new Object[width];
        boolean replaced = record.marks().broken();
        int size = found.size();
        for (int i = 0; i < Math.min(width, size); i++) {
            String cell = found.get(i);
            cells[i] = cell.isEmpty() ? null : replaced ? DecodedText.shown(cell) : cell;
        }
        boolean fits = size == width || layout.pad() && (size < width || restIsEmpty(found, width));
        Origin origin = Origin.line(file, record.line());
        if (!fits || replaced) {
            return new SourceRow(number, origin, raw(found, cells), problems(found, record.line(), fits, replaced));
        }
        return new SourceRow(number, origin, cells);
    }

    private static boolean restIsEmpty(List<String> found, int from) {
        return found.subList(from, found.size()).stream().allMatch(String::isBlank);
    }

    /** Nothing of a row with too many fields is lost: the surplus stays in its raw form. */
    private static @Nullable Object[] raw(List<String> found, @Nullable Object[] cells) {
        return found.size() <= cells.length
                ? cells
                : found.stream().map(DecodedText::shown).toArray();
    }

    private List<Problem> problems(List<String> found, long line, boolean fits, boolean replaced) {
        List<Problem> problems = new ArrayList<>();
        if (!fits) {
            problems.add(Problem.of(
                    ProblemCode.ROW_RAGGED,
                    "The row has " + found.size() + " fields, but the header has " + fields.size() + ".",
                    "Check the quotes and delimiters of this row, or say ragged: pad where short rows are meant."));
        }
        if (replaced) {
            problems.add(text.wrongEncoding(new Place.InFile(file, line), "The row"));
        }
        return problems;
    }

    private Records.@Nullable Fields record() {
        try {
            Records.Fields record = records.next();
            // a line of nothing but delimiters is no row, as a row of a workbook without a value is none
            while (record != null
                    && !layout.blanks()
                    && record.size() > 1
                    && record.marks().blank()) {
                last = record;
                record = records.next();
            }
            if (record != null && record.size() > MOST_FIELDS) {
                throw malformed(record.line(), "The row has more than " + MOST_FIELDS + " fields.");
            }
            if (record == null && last != null && endsInsideQuotes(last)) {
                // such a row has swallowed all rows behind it
                throw malformed(last.line(), "A quote that opens in this row never ends.");
            }
            last = record;
            return record;
        } catch (Records.Malformed e) {
            throw unreadable();
        }
    }

    /** A last row of one line is judged by itself; one of several lines needs a look at the whole text again. */
    private boolean endsInsideQuotes(Records.Fields row) {
        if (records.knowsItsEnd()) {
            return records.endsInQuotes();
        }
        if (layout.escape() != Layout.NONE) {
            // the library that knows escapes refuses such a text itself
            return false;
        }
        try {
            Tail.End end = tail.end();
            String line = lastLine(end);
            if (line != null && !row.marks().lines()) {
                return OpenQuote.atEndOf(new StringReader(line), layout);
            }
            return OpenQuote.atEndOf(
                    Records.passOver(DecodedText.open(bytes, stated).reader(), layout), layout);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Null where it is longer than what is remembered. */
    private static @Nullable String lastLine(Tail.End end) {
        String text = end.text().stripTrailing();
        int start = Math.max(text.lastIndexOf('\n'), text.lastIndexOf('\r'));
        return start >= 0 || end.whole() ? text.substring(start + 1) : null;
    }

    private CannotGoOn unreadable() {
        return malformed(
                number + 1,
                "The text after row " + number
                        + " can't be parsed: a quote that never ends, or a field of more than "
                        + Records.LONGEST_FIELD + " characters.");
    }

    private CannotGoOn malformed(long line, String sentence) {
        return new CannotGoOn(Problem.at(
                new Place.InFile(file, line),
                ProblemCode.FILE_MALFORMED,
                sentence,
                "Check quote and delimiter, or correct the file there."));
    }

    @Override
    public void close() {
        records.close();
    }
}
