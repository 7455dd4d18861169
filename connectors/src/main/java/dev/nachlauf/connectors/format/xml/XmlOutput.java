package dev.nachlauf.connectors.format.xml;

import static java.time.format.DateTimeFormatter.ISO_LOCAL_DATE_TIME;

import com.ctc.wstx.stax.WstxOutputFactory;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.OutputFormat;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.value.Values;
import java.io.IOException;
import java.io.OutputStream;
import java.time.LocalDateTime;
import java.util.List;
import java.util.regex.Pattern;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import org.jspecify.annotations.Nullable;

/** Writes XML 1.0: an element for each row, with an element for each field that is not empty. */
public final class XmlOutput implements OutputFormat {
    private static final String ROOT = "root";
    private static final String RECORD = "record";
    /** What of the names of XML is understood everywhere. */
    private static final Pattern NAME = Pattern.compile("[\\p{L}_][\\p{L}\\p{N}_.-]*");
    /** Characters that XML 1.0 has no place for. */
    private static final Pattern NO_XML =
            Pattern.compile("[^\\t\\n\\r\\x20-\\uD7FF\\uE000-\\uFFFD\\x{10000}-\\x{10FFFF}]");

    @Override
    public String name() {
        return "xml";
    }

    @Override
    public List<String> endings() {
        return List.of("xml");
    }

    @Override
    public List<Setting> options() {
        return List.of(
                Setting.optional(ROOT, "the name of the outer element; records unless stated"),
                Setting.optional(RECORD, "the name of the element of each row; record unless stated"));
    }

    @Override
    public FieldDescription demanded(FieldDescription field, FormatOptions options) {
        requireName(field.name(), "The field " + field.name());
        return field;
    }

    private static String requireName(String name, String what) {
        if (!NAME.matcher(name).matches()) {
            throw FormatOptions.malformed(
                    RECORD, what + " can't be the name of an element: that has letters, digits, _, - and points.");
        }
        return name;
    }

    @Override
    public RowWriter write(OutputStream out, List<Field> fields, FormatOptions options) throws IOException {
        String root = requireName(options.text(ROOT).orElse("records"), "The root");
        String record = requireName(options.text(RECORD).orElse("record"), "The record");
        try {
            XMLStreamWriter xml = new WstxOutputFactory().createXMLStreamWriter(out, "UTF-8");
            xml.writeStartDocument("UTF-8", "1.0");
            xml.writeCharacters("\n");
            xml.writeStartElement(root);
            return new Elements(xml, fields, record);
        } catch (XMLStreamException e) {
            throw new IOException(e);
        }
    }

    private record Elements(XMLStreamWriter xml, List<Field> fields, String record) implements RowWriter {
        @Override
        public void row(@Nullable Object[] values) throws IOException {
            try {
                xml.writeCharacters("\n  ");
                xml.writeStartElement(record);
                for (int i = 0; i < values.length; i++) {
                    String text = values[i] instanceof LocalDateTime moment
                            ? ISO_LOCAL_DATE_TIME.format(moment)
                            : Values.text(values[i]);
                    if (text != null && !text.isEmpty()) {
                        xml.writeCharacters("\n    ");
                        xml.writeStartElement(fields.get(i).name());
                        xml.writeCharacters(NO_XML.matcher(text).replaceAll("\uFFFD"));
                        xml.writeEndElement();
                    }
                }
                xml.writeCharacters("\n  ");
                xml.writeEndElement();
            } catch (XMLStreamException e) {
                throw new IOException(e);
            }
        }

        @Override
        public void close() throws IOException {
            try {
                xml.writeCharacters("\n");
                xml.writeEndElement();
                xml.writeCharacters("\n");
                xml.writeEndDocument();
                xml.close();
            } catch (XMLStreamException e) {
                throw new IOException(e);
            }
        }
    }
}
