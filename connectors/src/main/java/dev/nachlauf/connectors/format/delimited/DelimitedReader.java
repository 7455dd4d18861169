package dev.nachlauf.connectors.format.delimited;

import de.siegmar.fastcsv.reader.CloseableIterator;
import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.Charset;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.IllegalCharsetNameException;
import java.nio.charset.UnsupportedCharsetException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Reads one delimited file. A row that can't be what the header says is given with its problem, and reading goes on. */
final class DelimitedReader implements SourceReader {
    private static final int SAMPLE = 64 * 1024;
    private static final int MOST_FIELDS = 4_096;
    private static final int LONGEST_FIELD = 1_000_000;
    private static final char REPLACEMENT = '\uFFFD';
    private static final int SHOWN = 40;

    private final String file;
    private final Map<String, String> options;
    private final List<String> header;
    private final CsvReader<CsvRecord> csv;
    private final CloseableIterator<CsvRecord> records;
    private @Nullable CsvRecord ahead;
    private long number;

    private DelimitedReader(String file, Layout layout, CsvReader<CsvRecord> csv) {
        this.file = file;
        this.options = layout.options();
        this.csv = csv;
        this.records = csv.iterator();
        this.header = header(layout);
    }

    /** What is known before the first row is parsed. */
    private record Layout(Map<String, String> options, char delimiter, char quote, int headerRow) {}

    static DelimitedReader open(String file, InputStream bytes, Map<String, String> options) {
        try {
            BufferedInputStream in = new BufferedInputStream(bytes, SAMPLE * 2);
            in.mark(SAMPLE + 1);
            byte[] sample = in.readNBytes(SAMPLE);
            in.reset();
            if (sample.length == 0) {
                throw new CannotGoOn(Problem.at(
                        new Place.InFile(file, 1),
                        ProblemCode.FILE_EMPTY,
                        "The file is empty.",
                        "Ask the sender for the file again."));
            }
            Detection.Encoding encoding = encoding(options, sample);
            in.skipNBytes(encoding.mark());
            Layout layout = layout(
                    options,
                    encoding.charset(),
                    new String(sample, encoding.mark(), sample.length - encoding.mark(), encoding.charset()));
            CsvReader<CsvRecord> csv = CsvReader.builder()
                    .fieldSeparator(layout.delimiter)
                    .quoteCharacter(layout.quote)
                    .maxBufferSize(LONGEST_FIELD * 4)
                    .skipEmptyLines(true)
                    .allowExtraFields(true)
                    .allowMissingFields(true)
                    .ofCsvRecord(new InputStreamReader(
                            in,
                            encoding.charset()
                                    .newDecoder()
                                    .onMalformedInput(CodingErrorAction.REPLACE)
                                    .onUnmappableCharacter(CodingErrorAction.REPLACE)));
            return new DelimitedReader(file, layout, csv);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static Detection.Encoding encoding(Map<String, String> options, byte[] sample) {
        String stated = options.get(DelimitedFormat.ENCODING);
        if (stated == null) {
            return Detection.encoding(sample);
        }
        try {
            Charset charset = Charset.forName(stated);
            Detection.Encoding marked = Detection.byMark(sample);
            if (marked.mark() > 0 && charset.name().startsWith("UTF-16")) {
                return marked;
            }
            boolean skip = marked.mark() > 0 && marked.charset().equals(charset);
            return new Detection.Encoding(charset, skip ? marked.mark() : 0);
        } catch (IllegalCharsetNameException | UnsupportedCharsetException e) {
            throw option(
                    DelimitedFormat.ENCODING,
                    "There is no encoding " + stated + ".",
                    "Common ones: utf-8, windows-1252, iso-8859-1, utf-16.");
        }
    }

    private static Layout layout(Map<String, String> stated, Charset charset, String sample) {
        char quote = character(stated, DelimitedFormat.QUOTE, '"');
        int headerRow = headerRow(stated);
        String line =
                sample.lines().skip(Math.max(0, headerRow - 1L)).findFirst().orElse("");
        char delimiter = character(stated, DelimitedFormat.DELIMITER, Detection.delimiter(line, quote));
        if (delimiter == quote) {
            throw option(
                    DelimitedFormat.QUOTE, "The delimiter and the quote are the same character.", "Give each its own.");
        }
        Map<String, String> options = new LinkedHashMap<>();
        options.put(DelimitedFormat.DELIMITER, delimiter == '\t' ? "tab" : String.valueOf(delimiter));
        options.put(DelimitedFormat.QUOTE, String.valueOf(quote));
        options.put(DelimitedFormat.ENCODING, charset.name().toLowerCase(java.util.Locale.ROOT));
        options.put(DelimitedFormat.HEADER_ROW, String.valueOf(headerRow));
        return new Layout(options, delimiter, quote, headerRow);
    }

    private static int headerRow(Map<String, String> options) {
        String stated = options.getOrDefault(DelimitedFormat.HEADER_ROW, "1");
        if (!stated.matches("\\d{1,4}")) {
            throw option(
                    DelimitedFormat.HEADER_ROW,
                    "header-row is a line number, but " + stated + " was found.",
                    "Write 0 where there is no header.");
        }
        return Integer.parseInt(stated);
    }

    private static char character(Map<String, String> options, String name, char otherwise) {
        String stated = options.get(name);
        if (stated == null) {
            return otherwise;
        }
        if (stated.equals("tab") || stated.equals("\\t")) {
            return '\t';
        }
        if (stated.length() != 1 || stated.charAt(0) == '\n' || stated.charAt(0) == '\r') {
            throw option(
                    name, name + " is one character, but " + stated + " was found.", "Write tab for the tabulator.");
        }
        return stated.charAt(0);
    }

    private static CannotGoOn option(String name, String sentence, String remedy) {
        return new CannotGoOn(Problem.at(new Place.InSetting(name), ProblemCode.SETTING_MALFORMED, sentence, remedy));
    }

    private List<String> header(Layout layout) {
        CsvRecord first = record();
        while (first != null && first.getStartingLineNumber() < layout.headerRow) {
            first = record();
        }
        if (first == null) {
            throw new CannotGoOn(Problem.at(
                    new Place.InFile(file, Math.max(1, layout.headerRow)),
                    layout.headerRow > 1 ? ProblemCode.FILE_HEADER : ProblemCode.FILE_EMPTY,
                    layout.headerRow > 1
                            ? "The file ends before the header row " + layout.headerRow + "."
                            : "The file has no rows.",
                    "Check header-row, or ask the sender for the file again."));
        }
        if (layout.headerRow == 0) {
            ahead = first;
            List<String> names = new ArrayList<>();
            for (int i = 1; i <= first.getFieldCount(); i++) {
                names.add("field_" + i);
            }
            return List.copyOf(names);
        }
        return names(first, layout);
    }

    private List<String> names(CsvRecord first, Layout layout) {
        Place place = new Place.InFile(file, first.getStartingLineNumber());
        List<String> names = first.getFields().stream().map(String::strip).toList();
        Set<String> seen = new HashSet<>();
        List<Problem> problems = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
            String name = names.get(i);
            if (name.isEmpty()) {
                problems.add(Problem.at(
                        place,
                        ProblemCode.FILE_HEADER,
                        "Column " + (i + 1) + " of the header has no name.",
                        "Name it, or check delimiter and header-row."));
            } else if (!seen.add(name)) {
                problems.add(Problem.at(
                        place,
                        ProblemCode.FILE_HEADER,
                        "The header has the name " + shortened(name) + " twice.",
                        "Rename one of the columns."));
            }
            if (name.indexOf(REPLACEMENT) >= 0) {
                problems.add(wrongEncoding(place, "The header"));
            }
        }
        char other = Detection.delimiter(String.join(String.valueOf(layout.delimiter), names), layout.quote);
        if (names.size() == 1
                && other != layout.delimiter
                && Detection.count(names.getFirst(), other, layout.quote) > 0) {
            problems.add(Problem.at(
                    place,
                    ProblemCode.FILE_HEADER,
                    "With the delimiter '" + options.get(DelimitedFormat.DELIMITER)
                            + "' the header is one single field: " + shortened(names.getFirst()),
                    "The delimiter is probably '" + (other == '\t' ? "tab" : other)
                            + "': correct it, or leave it out and it is detected."));
        }
        if (!problems.isEmpty()) {
            throw new CannotGoOn(problems);
        }
        return names;
    }

    private static String shortened(String text) {
        return text.length() <= SHOWN ? text : text.substring(0, SHOWN) + "…";
    }

    private Problem wrongEncoding(Place place, String what) {
        return Problem.at(
                place,
                ProblemCode.FILE_ENCODING,
                what + " holds bytes that are not " + options.get(DelimitedFormat.ENCODING) + ".",
                "State the file's encoding in the job, such as encoding: windows-1252.");
    }

    @Override
    public List<String> header() {
        return header;
    }

    @Override
    public Map<String, String> options() {
        return options;
    }

    @Override
    public @Nullable SourceRow next() {
        CsvRecord record = ahead == null ? record() : ahead;
        ahead = null;
        if (record == null) {
            return null;
        }
        number++;
        List<String> fields = record.getFields();
        @Nullable String[] cells = new String[header.size()];
        boolean replaced = false;
        for (int i = 0; i < Math.min(cells.length, fields.size()); i++) {
            String field = fields.get(i);
            cells[i] = field.isEmpty() ? null : field;
            replaced |= field.indexOf(REPLACEMENT) >= 0;
        }
        long line = record.getStartingLineNumber();
        if (fields.size() < cells.length && fields.getLast().indexOf('\n') >= 0 && !records.hasNext()) {
            // such a row would swallow all rows behind it
            throw malformed(line, "A quote that opens in this row never ends.");
        }
        if (fields.size() != cells.length || replaced) {
            return new SourceRow(number, line, raw(fields, cells), problems(fields, line, replaced));
        }
        return new SourceRow(number, line, cells);
    }

    /** Nothing of a row with too many fields is lost: the surplus stays in its raw form. */
    private static @Nullable String[] raw(List<String> fields, @Nullable String[] cells) {
        return fields.size() <= cells.length ? cells : fields.toArray(String[]::new);
    }

    private List<Problem> problems(List<String> fields, long line, boolean replaced) {
        List<Problem> problems = new ArrayList<>();
        if (fields.size() != header.size()) {
            problems.add(Problem.of(
                    ProblemCode.ROW_RAGGED,
                    "The row has " + fields.size() + " fields, but the header has " + header.size() + ".",
                    "Check the quotes and delimiters of this row."));
        }
        if (replaced) {
            problems.add(wrongEncoding(new Place.InFile(file, line), "The row"));
        }
        return problems;
    }

    private @Nullable CsvRecord record() {
        try {
            CsvRecord record = records.hasNext() ? records.next() : null;
            if (record != null && record.getFieldCount() > MOST_FIELDS) {
                throw malformed(record.getStartingLineNumber(), "The row has more than " + MOST_FIELDS + " fields.");
            }
            return record;
        } catch (CsvParseException e) {
            throw malformed(
                    number + 1,
                    "The text after row " + number
                            + " can't be taken apart: a quote that never ends, or a field of more than " + LONGEST_FIELD
                            + " characters.");
        }
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
        try {
            csv.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
