package dev.nachlauf.connectors.format.json;

import static java.time.format.DateTimeFormatter.ISO_LOCAL_DATE_TIME;

import dev.nachlauf.connectors.format.nested.RecordPath;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.OutputFormat;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.value.Values;
import java.io.OutputStream;
import java.math.BigDecimal;
import java.time.LocalDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonEncoding;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.StreamWriteFeature;
import tools.jackson.core.json.JsonFactory;

/** Writes objects in JSON (RFC 8259): an array of them, or one on each line. Numbers are exact, dates ISO texts. */
public sealed class JsonOutput implements OutputFormat {
    static final JsonFactory FACTORY = JsonFactory.builder()
            .disable(StreamWriteFeature.AUTO_CLOSE_TARGET)
            .enable(StreamWriteFeature.WRITE_BIGDECIMAL_AS_PLAIN)
            .rootValueSeparator("\n")
            .build();

    /** One object on each line. */
    public static final class Lines extends JsonOutput {
        @Override
        public String name() {
            return "json-lines";
        }

        @Override
        public List<String> endings() {
            return List.of("jsonl", "ndjson");
        }

        @Override
        public List<Setting> options() {
            return List.of();
        }

        @Override
        public RowWriter write(OutputStream out, List<Field> fields, FormatOptions options) {
            return new Rows(generator(out), fields, true, 0);
        }
    }

    @Override
    public String name() {
        return "json";
    }

    @Override
    public List<String> endings() {
        return List.of("json");
    }

    @Override
    public List<Setting> options() {
        return List.of(Setting.optional(
                RecordPath.RECORD.name(), "the names that lead to the list of objects; it stands alone unless stated"));
    }

    @Override
    public FieldDescription demanded(FieldDescription field, FormatOptions options) {
        path(options);
        return field;
    }

    @Override
    public RowWriter write(OutputStream out, List<Field> fields, FormatOptions options) {
        JsonGenerator json = generator(out);
        List<String> path = path(options);
        path.forEach(name -> {
            json.writeStartObject();
            json.writeName(name);
        });
        json.writeStartArray();
        return new Rows(json, fields, false, path.size());
    }

    private static List<String> path(FormatOptions options) {
        return RecordPath.stated(options).map(RecordPath::names).orElse(List.of());
    }

    private static JsonGenerator generator(OutputStream out) {
        return FACTORY.createGenerator(ObjectWriteContext.empty(), out, JsonEncoding.UTF8);
    }

    /** Writes a value. */
    static void write(JsonGenerator json, @Nullable Object value) {
        switch (value) {
            case null -> json.writeNull();
            case Long number -> json.writeNumber(number);
            case BigDecimal number -> json.writeNumber(number);
            case Boolean truth -> json.writeBoolean(truth);
            case LocalDateTime moment -> json.writeString(ISO_LOCAL_DATE_TIME.format(moment));
            default -> json.writeString(Values.text(value));
        }
    }

    private static final class Rows implements RowWriter {
        private final JsonGenerator json;
        private final List<Field> fields;
        private final boolean lines;
        private final int around;
        private boolean any;

        /** @param around how many objects are open around the list */
        Rows(JsonGenerator json, List<Field> fields, boolean lines, int around) {
            this.json = json;
            this.fields = fields;
            this.lines = lines;
            this.around = around;
        }

        @Override
        public void row(@Nullable Object[] values) {
            json.writeStartObject();
            for (int i = 0; i < values.length; i++) {
                json.writeName(fields.get(i).name());
                write(json, values[i]);
            }
            json.writeEndObject();
            any = true;
        }

        @Override
        public void close() {
            if (!lines) {
                json.writeEndArray();
            }
            for (int object = 0; object < around; object++) {
                json.writeEndObject();
            }
            if (any || !lines) {
                json.writeRaw('\n');
            }
            json.close();
        }
    }
}
