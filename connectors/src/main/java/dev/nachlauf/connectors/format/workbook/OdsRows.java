package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.connectors.format.workbook.Sheets.CellError;
import dev.nachlauf.connectors.format.workbook.Sheets.Row;
import dev.nachlauf.connectors.format.workbook.Sheets.Rows;
import dev.nachlauf.connectors.format.workbook.Sheets.Sheet;
import dev.nachlauf.connectors.format.xml.SafeXml;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.jspecify.annotations.Nullable;

/** The rows of one OpenDocument sheet. Blank rows and cells are written once with a count, often a million times. */
final class OdsRows implements Rows {
    /** More of them in a row are no text that somebody has written. */
    private static final int MOST_BLANKS = 1_000;

    private static final int DATE_LENGTH = "2026-05-01".length();
    private static final Pattern ERROR = Pattern.compile("#(?:REF!|N/A|VALUE!|DIV/0!|NAME\\?|NUM!|NULL!)|Err:\\d+");

    private final String file;
    private final InputStream in;
    private final XMLStreamReader reader;
    private long number;
    private @Nullable Row again;
    private long repeats;
    private boolean ended;

    OdsRows(String file, InputStream in, Sheet sheet) {
        this.file = file;
        this.in = in;
        try {
            this.reader = SafeXml.reader(in, null);
            int tables = 0;
            while (reader.hasNext() && tables < sheet.number()) {
                boolean start = SafeXml.next(reader, file) == XMLStreamConstants.START_ELEMENT;
                tables += start && reader.getLocalName().equals("table") ? 1 : 0;
            }
        } catch (XMLStreamException e) {
            throw SafeXml.malformed(file, e, 0);
        }
    }

    @Override
    public @Nullable Row next() {
        try {
            if (repeats > 0 && again != null) {
                repeats--;
                number++;
                return new Row(number, again.cells());
            }
            while (!ended && reader.hasNext()) {
                int event = SafeXml.next(reader, file);
                if (event == XMLStreamConstants.END_ELEMENT
                        && reader.getLocalName().equals("table")) {
                    ended = true;
                } else if (event == XMLStreamConstants.START_ELEMENT
                        && reader.getLocalName().equals("table-row")) {
                    Row row = row();
                    if (row != null) {
                        return row;
                    }
                }
            }
            return null;
        } catch (XMLStreamException e) {
            throw SafeXml.malformed(file, e, number);
        }
    }

    private @Nullable Row row() throws XMLStreamException {
        long times = count("number-rows-repeated");
        List<@Nullable Object> cells = new ArrayList<>();
        boolean filled = false;
        while (true) {
            int event = SafeXml.next(reader, file);
            if (event == XMLStreamConstants.END_ELEMENT && reader.getLocalName().equals("table-row")) {
                break;
            }
            if (event == XMLStreamConstants.START_ELEMENT
                    && (reader.getLocalName().equals("table-cell")
                            || reader.getLocalName().equals("covered-table-cell"))) {
                long columns = count("number-columns-repeated");
                Object value = cell();
                filled |= value != null;
                for (long i = 0; i < columns && cells.size() < SheetRules.MOST_COLUMNS; i++) {
                    cells.add(value);
                }
            }
        }
        if (!filled) {
            number += times;
            return null;
        }
        number++;
        again = new Row(number, cells.toArray());
        repeats = times - 1;
        return again;
    }

    private long count(String attribute) {
        return count(OdsSheets.TABLE, attribute);
    }

    private long count(String space, String attribute) {
        String text = reader.getAttributeValue(space, attribute);
        return text != null && text.matches("[1-9]\\d{0,6}") ? Long.parseLong(text) : 1;
    }

    /** The cell at hand; its text is read in any case, for that moves on behind it. */
    private @Nullable Object cell() throws XMLStreamException {
        String type = OdsSheets.office(reader, "value-type");
        String value = OdsSheets.office(reader, "value");
        String date = OdsSheets.office(reader, "date-value");
        String time = OdsSheets.office(reader, "time-value");
        String truth = OdsSheets.office(reader, "boolean-value");
        boolean formula = reader.getAttributeValue(OdsSheets.TABLE, "formula") != null;
        String text = text();
        if (formula && ERROR.matcher(text).matches()) {
            return new CellError(text);
        }
        try {
            return switch (type == null ? "" : type) {
                case "float", "percentage", "currency" -> number(value, text);
                case "date" -> date(date);
                case "time" -> time(time);
                case "boolean" -> "true".equals(truth);
                default -> text.isBlank() ? null : text;
            };
        } catch (NumberFormatException | DateTimeException e) {
            return new CellError(text);
        }
    }

    private static Object number(@Nullable String value, String text) {
        BigDecimal number = new BigDecimal(value == null ? text : value);
        return text.matches("0\\d+") ? text : CellNumbers.value(number);
    }

    private static @Nullable Object date(@Nullable String date) {
        if (date == null) {
            return null;
        }
        return date.length() <= DATE_LENGTH ? LocalDate.parse(date) : LocalDateTime.parse(date);
    }

    private static @Nullable Object time(@Nullable String time) {
        return time == null ? null : LocalTime.MIDNIGHT.plus(Duration.parse(time));
    }

    /** The paragraphs of a cell; notes beside it are none of its text. */
    private String text() throws XMLStreamException {
        StringBuilder text = new StringBuilder();
        int depth = 1;
        int note = 0;
        int paragraphs = 0;
        while (depth > 0) {
            int event = SafeXml.next(reader, file);
            if (event == XMLStreamConstants.START_ELEMENT) {
                depth++;
                String name = reader.getLocalName();
                if (note == 0 && name.equals("annotation")) {
                    note = depth;
                } else if (note == 0 && name.equals("p")) {
                    text.append(paragraphs++ == 0 ? "" : "\n");
                } else if (note == 0) {
                    text.append(blank(name));
                }
            } else if (event == XMLStreamConstants.END_ELEMENT) {
                note = depth == note ? 0 : note;
                depth--;
            } else if (note == 0 && event == XMLStreamConstants.CHARACTERS) {
                text.append(reader.getText());
            }
        }
        return text.toString();
    }

    /** What the element at hand stands for: blanks beyond the first, tabs and breaks are elements. */
    private String blank(String element) {
        return switch (element) {
            case "s" -> " ".repeat((int) Math.min(count(OdsSheets.TEXT, "c"), MOST_BLANKS));
            case "tab" -> "\t";
            case "line-break" -> "\n";
            default -> "";
        };
    }

    @Override
    public void close() {
        try {
            reader.close();
            in.close();
        } catch (XMLStreamException e) {
            throw new IllegalStateException(e);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
