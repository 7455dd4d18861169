package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.connectors.format.xml.SafeXml;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.jspecify.annotations.Nullable;

/** An OpenDocument workbook (ODF 1.3, part 3, chapter 9): its content is one XML text, which is streamed. */
final class OdsSheets implements Sheets {
    static final String CONTENT = "content.xml";
    static final String OFFICE = "urn:oasis:names:tc:opendocument:xmlns:office:1.0";
    static final String TABLE = "urn:oasis:names:tc:opendocument:xmlns:table:1.0";
    static final String TEXT = "urn:oasis:names:tc:opendocument:xmlns:text:1.0";

    private final String file;
    private final ZipFile zip;
    private final ZipEntry content;
    private final List<Sheet> sheets = new ArrayList<>();

    private OdsSheets(String file, ZipFile zip, ZipEntry content) {
        this.file = file;
        this.zip = zip;
        this.content = content;
    }

    static OdsSheets open(String file, Path path) throws IOException {
        WorkbookBounds.check(file, path);
        ZipFile zip = new ZipFile(path.toFile());
        try {
            ZipEntry content = zip.getEntry(CONTENT);
            if (content == null) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.FILE_MALFORMED,
                        "The workbook " + file + " has no content.",
                        "Ask the sender for it again."));
            }
            OdsSheets sheets = new OdsSheets(file, zip, content);
            sheets.list();
            return sheets;
        } catch (IOException | RuntimeException e) {
            zip.close();
            throw e;
        }
    }

    /** One pass for the names: the tables of a long workbook are far apart. */
    private void list() throws IOException {
        Set<String> hiddenStyles = new HashSet<>();
        String style = "";
        try (InputStream in = stream()) {
            XMLStreamReader reader = SafeXml.reader(in, null);
            while (reader.hasNext()) {
                if (SafeXml.next(reader, file) != XMLStreamConstants.START_ELEMENT) {
                    continue;
                }
                switch (reader.getLocalName()) {
                    case "style" -> style = attribute(reader, "name");
                    case "table-properties" -> {
                        if ("false".equals(reader.getAttributeValue(TABLE, "display"))) {
                            hiddenStyles.add(style);
                        }
                    }
                    case "table" ->
                        sheets.add(new Sheet(
                                sheets.size() + 1,
                                attribute(reader, "name"),
                                hiddenStyles.contains(attribute(reader, "style-name"))));
                    default -> {
                        // says nothing about sheets
                    }
                }
            }
            reader.close();
        } catch (XMLStreamException e) {
            throw SafeXml.malformed(file, e, 0);
        }
    }

    private static String attribute(XMLStreamReader reader, String name) {
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            if (reader.getAttributeLocalName(i).equals(name)) {
                return reader.getAttributeValue(i);
            }
        }
        return "";
    }

    private InputStream stream() throws IOException {
        return new BufferedInputStream(zip.getInputStream(content));
    }

    @Override
    public List<Sheet> sheets() {
        return sheets;
    }

    @Override
    public Rows open(Sheet sheet) {
        try {
            return new OdsRows(file, stream(), sheet);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Override
    public void close() {
        try {
            zip.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    static @Nullable String office(XMLStreamReader reader, String name) {
        return reader.getAttributeValue(OFFICE, name);
    }
}
