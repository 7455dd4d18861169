package dev.nachlauf.connectors.format.xml;

import com.ctc.wstx.stax.WstxOutputFactory;
import dev.nachlauf.connectors.format.nested.RecordPath;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.OutputFormat;
import dev.nachlauf.core.system.Setting;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import org.jspecify.annotations.Nullable;

/** Writes XML 1.0: an element for each row, with an element for each field that is not empty. */
public final class XmlOutput implements OutputFormat {
    private static final String ROOT = "root";
    private static final String RECORD = RecordPath.RECORD.name();
    /** What of the names of XML is understood everywhere. */
    private static final Pattern NAME = Pattern.compile("[\\p{L}_][\\p{L}\\p{N}_.-]*");

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
                Setting.optional(
                        RECORD,
                        "the name of the element of each row, or the names that lead to it, such as list.hut; record"
                                + " unless stated"));
    }

    @Override
    public FieldDescription demanded(FieldDescription field, FormatOptions options) {
        path(options);
        requireName(field.name(), "The field " + field.name());
        return field;
    }

    /** The names of the elements from the outermost to that of a row. */
    private static List<String> path(FormatOptions options) {
        Optional<String> root = options.text(ROOT);
        List<String> path = new ArrayList<>(
                RecordPath.stated(options).map(RecordPath::names).orElse(List.of("record")));
        if (path.size() == 1 || root.isPresent() && !path.getFirst().equals(root.get())) {
            path.addFirst(root.orElse("records"));
        }
        path.forEach(name -> requireName(name, "The element " + name));
        return path;
    }

    private static void requireName(String name, String what) {
        if (!NAME.matcher(name).matches()) {
            throw FormatOptions.malformed(
                    RECORD, what + " can't be the name of an element: that has letters, digits, _, - and points.");
        }
    }

    @Override
    public RowWriter write(OutputStream out, List<Field> fields, FormatOptions options) throws IOException {
        List<String> path = path(options);
        int around = path.size() - 1;
        try {
            XMLStreamWriter xml = new WstxOutputFactory().createXMLStreamWriter(out, "UTF-8");
            xml.writeStartDocument("UTF-8", "1.0");
            xml.writeCharacters("\n");
            for (String name : path.subList(0, around)) {
                xml.writeStartElement(name);
            }
            return new Elements(xml, fields, path.getLast(), around);
        } catch (XMLStreamException e) {
            throw new IOException(e);
        }
    }

    /** @param around how many elements are open around the records */
    private record Elements(XMLStreamWriter xml, List<Field> fields, String record, int around) implements RowWriter {
        @Override
        public void row(@Nullable Object[] values) throws IOException {
            try {
                xml.writeCharacters("\n  ");
                xml.writeStartElement(record);
                for (int i = 0; i < values.length; i++) {
                    String text = XmlText.of(values[i]);
                    if (!text.isEmpty()) {
                        xml.writeCharacters("\n    ");
                        xml.writeStartElement(fields.get(i).name());
                        xml.writeCharacters(text);
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
                for (int open = 0; open < around; open++) {
                    xml.writeEndElement();
                }
                xml.writeCharacters("\n");
                xml.writeEndDocument();
                xml.close();
            } catch (XMLStreamException e) {
                throw new IOException(e);
            }
        }
    }
}
