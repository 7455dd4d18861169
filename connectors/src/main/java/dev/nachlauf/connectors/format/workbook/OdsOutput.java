package dev.nachlauf.connectors.format.workbook;

import com.ctc.wstx.stax.WstxOutputFactory;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.OutputFormat;
import dev.nachlauf.core.system.Setting;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.zip.CRC32;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import org.jspecify.annotations.Nullable;

/**
 * Writes OpenDocument workbooks (ISO/IEC 26300) of one sheet, with numbers, dates and truths in cells of their kind. A number
 * of more digits than a spreadsheet program keeps stands as text, and no text becomes a formula.
 */
public final class OdsOutput implements OutputFormat {
    private static final String TYPE = "application/vnd.oasis.opendocument.spreadsheet";
    private static final String MANIFEST = """
            <?xml version="1.0" encoding="UTF-8"?>
            <manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.3">
              <manifest:file-entry manifest:full-path="/" manifest:version="1.3" manifest:media-type="%s"/>
              <manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/>
            </manifest:manifest>
            """.formatted(TYPE);

    @Override
    public String name() {
        return "ods";
    }

    @Override
    public List<String> endings() {
        return List.of("ods");
    }

    @Override
    public List<Setting> options() {
        return SheetRules.OPTIONS;
    }

    @Override
    public FieldDescription demanded(FieldDescription field, FormatOptions options) {
        return SheetRules.demanded(field, options);
    }

    @Override
    public RowWriter write(OutputStream out, List<Field> fields, FormatOptions options) throws IOException {
        String sheet = SheetRules.name(options);
        ZipOutputStream zip = new ZipOutputStream(out, StandardCharsets.UTF_8);
        stored(zip, "mimetype", TYPE);
        zip.putNextEntry(new ZipEntry("META-INF/manifest.xml"));
        zip.write(MANIFEST.getBytes(StandardCharsets.UTF_8));
        zip.closeEntry();
        zip.putNextEntry(new ZipEntry("content.xml"));
        try {
            XMLStreamWriter xml = new WstxOutputFactory().createXMLStreamWriter(zip, "UTF-8");
            return new Rows(
                    zip,
                    new OdsSheet(xml, sheet, fields.stream().map(Field::name).toList()));
        } catch (XMLStreamException e) {
            throw new IOException(e);
        }
    }

    /** The type comes first and is not packed, so that a file shows by its first bytes what it is. */
    private static void stored(ZipOutputStream zip, String name, String text) throws IOException {
        byte[] bytes = text.getBytes(StandardCharsets.US_ASCII);
        CRC32 sum = new CRC32();
        sum.update(bytes);
        ZipEntry entry = new ZipEntry(name);
        entry.setMethod(ZipEntry.STORED);
        entry.setSize(bytes.length);
        entry.setCrc(sum.getValue());
        zip.putNextEntry(entry);
        zip.write(bytes);
        zip.closeEntry();
    }

    private record Rows(ZipOutputStream zip, OdsSheet sheet) implements RowWriter {
        @Override
        public void row(@Nullable Object[] values) throws IOException {
            try {
                sheet.row(values);
            } catch (XMLStreamException e) {
                throw new IOException(e);
            }
        }

        @Override
        public void close() throws IOException {
            try {
                sheet.end();
            } catch (XMLStreamException e) {
                throw new IOException(e);
            }
            zip.closeEntry();
            zip.finish();
        }
    }
}
