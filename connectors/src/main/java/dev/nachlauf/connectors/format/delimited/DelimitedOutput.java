package dev.nachlauf.connectors.format.delimited;

import de.siegmar.fastcsv.writer.CsvWriter;
import de.siegmar.fastcsv.writer.LineDelimiter;
import de.siegmar.fastcsv.writer.QuoteStrategies;
import dev.nachlauf.connectors.format.encoding.EncodedText;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.OutputFormat;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.value.Values;
import java.io.IOException;
import java.io.OutputStream;
import java.io.Writer;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Writes delimited text (RFC 4180, with any delimiter). Values stand as they are; what needs quotes has them. */
public final class DelimitedOutput implements OutputFormat {
    private static final String HEADER = "header";
    private static final String QUOTES = "quotes";

    @Override
    public String name() {
        return "delimited";
    }

    @Override
    public List<String> endings() {
        return List.of("csv");
    }

    @Override
    public List<Setting> options() {
        return Stream.concat(
                        Stream.of(
                                Setting.optional(
                                        DelimitedFormat.DELIMITER, "a comma unless stated; tab, or one character"),
                                Setting.optional(
                                        HEADER, "yes unless stated, or no: whether the first line has the names"),
                                Setting.optional(QUOTES, "needed unless stated, or all: which values stand in quotes")),
                        EncodedText.OPTIONS.stream())
                .toList();
    }

    @Override
    public FieldDescription demanded(FieldDescription field, FormatOptions options) {
        return EncodedText.of(options).demanded(field);
    }

    @Override
    public RowWriter write(OutputStream out, List<Field> fields, FormatOptions options) {
        EncodedText text = EncodedText.of(options);
        boolean all = options.word(QUOTES, "needed", List.of("needed", "all")).equals("all");
        boolean header = options.word(HEADER, "yes", List.of("yes", "no", "true", "false"))
                .matches("yes|true");
        Writer chars = text.writer(out);
        CsvWriter.CsvWriterBuilder builder = CsvWriter.builder()
                .fieldSeparator(options.character(DelimitedFormat.DELIMITER).orElse(','))
                .lineDelimiter(text.lineEnd().equals("\n") ? LineDelimiter.LF : LineDelimiter.CRLF);
        CsvWriter csv = (all ? builder.quoteStrategy(QuoteStrategies.ALWAYS) : builder).build(chars);
        if (header) {
            csv.writeRecord(fields.stream().map(Field::name).toList());
        }
        return new Rows(csv);
    }

    private record Rows(CsvWriter csv) implements RowWriter {
        @Override
        public void row(@Nullable Object[] values) {
            csv.writeRecord(Arrays.stream(values)
                    .map(value -> Objects.requireNonNullElse(Values.text(value), ""))
                    .toArray(String[]::new));
        }

        @Override
        public void close() throws IOException {
            csv.close();
        }
    }
}
