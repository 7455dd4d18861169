package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.connectors.format.xml.SafeXml;
import java.io.IOException;
import java.io.InputStream;
import java.util.HashMap;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.jspecify.annotations.Nullable;

/** The parts of an Office Open XML workbook (ECMA-376, part 2). */
final class XlsxParts {
    static final String WORKBOOK = "xl/workbook.xml";
    static final String STYLES = "xl/styles.xml";
    private static final String RELATIONS = "xl/_rels/workbook.xml.rels";

    private XlsxParts() {}

    /** Takes an element; its attributes are there to be asked for. */
    @FunctionalInterface
    interface Use {
        void of(XMLStreamReader element) throws XMLStreamException;
    }

    /** The parts of sheets by their names (ECMA-376, part 1, 18.2.19). */
    static Map<String, String> ofSheets(ZipFile zip, String file) throws IOException, XMLStreamException {
        Map<String, String> targets = new HashMap<>();
        each(zip, file, RELATIONS, "Relationship", element -> {
            String target = String.valueOf(attribute(element, "Target"));
            String part = target.startsWith("/") ? target.substring(1) : "xl/" + target;
            targets.put(String.valueOf(attribute(element, "Id")), part);
        });
        Map<String, String> parts = new HashMap<>();
        each(zip, file, WORKBOOK, "sheet", element -> {
            String part = targets.get(String.valueOf(attribute(element, "id")));
            if (part != null) {
                parts.put(String.valueOf(attribute(element, "name")), part);
            }
        });
        return parts;
    }

    /** Gives every element of a name in a part. */
    static void each(ZipFile zip, String file, String part, String name, Use use)
            throws IOException, XMLStreamException {
        eachStart(zip, file, part, element -> {
            if (element.getLocalName().equals(name)) {
                use.of(element);
            }
        });
    }

    /** Gives every element of a part. */
    static void eachStart(ZipFile zip, String file, String part, Use use) throws IOException, XMLStreamException {
        ZipEntry entry = zip.getEntry(part);
        if (entry == null) {
            throw WorkbookOptions.unreadable(file);
        }
        try (InputStream in = zip.getInputStream(entry)) {
            XMLStreamReader reader = SafeXml.reader(in, null);
            while (reader.hasNext()) {
                if (SafeXml.next(reader, file) == XMLStreamConstants.START_ELEMENT) {
                    use.of(reader);
                }
            }
        }
    }

    /** An attribute by its name, whatever its namespace. */
    static @Nullable String attribute(XMLStreamReader element, String name) {
        for (int i = 0; i < element.getAttributeCount(); i++) {
            if (element.getAttributeLocalName(i).equals(name)) {
                return element.getAttributeValue(i);
            }
        }
        return null;
    }
}
