package dev.nachlauf.connectors.format.fixed;

import dev.nachlauf.connectors.format.encoding.EncodedText;
import dev.nachlauf.core.system.Characters;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.OutputFormat;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.value.Values;
import java.io.IOException;
import java.io.OutputStream;
import java.io.Writer;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Writes lines of fixed width: texts stand at the left of their columns, numbers at the right. */
public final class FixedOutput implements OutputFormat {
    @Override
    public String name() {
        return "fixed";
    }

    @Override
    public List<String> endings() {
        return List.of();
    }

    @Override
    public List<Setting> options() {
        return Stream.concat(
                        Stream.of(Setting.required(
                                FixedFormat.COLUMNS,
                                "the fields and their positions from 1, such as { code: 1-6, name: 7-30 }")),
                        EncodedText.OPTIONS.stream())
                .toList();
    }

    /** What is longer than its column, or holds a line end, is rejected: nothing is cut. */
    @Override
    public FieldDescription demanded(FieldDescription field, FormatOptions options) {
        FixedColumn column = column(field.name(), FixedColumn.parse(options));
        return field.atMost(column.to() - column.from() + 1)
                .holding(Characters.of(EncodedText.of(options).charset()).onOneLine());
    }

    private static FixedColumn column(String name, List<FixedColumn> columns) {
        return columns.stream()
                .filter(column -> column.name().equals(name))
                .findFirst()
                .orElseThrow(() -> FormatOptions.malformed(
                        FixedFormat.COLUMNS, "columns doesn't say where the field " + name + " stands."));
    }

    @Override
    public RowWriter write(OutputStream out, List<Field> fields, FormatOptions options) {
        List<FixedColumn> columns = FixedColumn.parse(options);
        List<FixedColumn> places =
                fields.stream().map(field -> column(field.name(), columns)).toList();
        EncodedText text = EncodedText.of(options);
        return new Lines(text.writer(out), text.lineEnd(), fields, places);
    }

    private record Lines(Writer out, String lineEnd, List<Field> fields, List<FixedColumn> places)
            implements RowWriter {
        @Override
        public void row(@Nullable Object[] values) throws IOException {
            StringBuilder line = new StringBuilder();
            for (int i = 0; i < values.length; i++) {
                FixedColumn place = places.get(i);
                String text = Objects.requireNonNullElse(Values.text(values[i]), "");
                while (line.length() < place.to()) {
                    line.append(' ');
                }
                int at = fields.get(i).kind().isNumber() ? place.to() - text.length() : place.from() - 1;
                line.replace(at, at + text.length(), text);
            }
            out.write(line.append(lineEnd).toString());
        }

        @Override
        public void close() throws IOException {
            out.close();
        }
    }
}
