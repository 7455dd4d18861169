package dev.nachlauf.connectors.format.xml;

import dev.nachlauf.connectors.format.encoding.CopiedText;
import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.connectors.format.nested.FlatRecord;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.system.SourceBytes;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;
import org.jspecify.annotations.Nullable;

/** Copies an XML file with edits. Whatever doesn't change is copied as it is spelled, comments and blanks included. */
final class XmlEdits {
    private static final String ENCODING_UNLESS_SAID = "UTF-8";

    private final CopiedText text;
    private final ElementEdits elements;
    private final RowEdits edits;
    private final Set<String> parents = new HashSet<>();
    /** The record that was met last, and what stands before it. */
    private String last = "";

    private String lead = "";

    private XmlEdits(CopiedText text, ElementEdits elements, RowEdits edits) {
        this.text = text;
        this.elements = elements;
        this.edits = edits;
    }

    static void copy(
            SourceBytes bytes,
            FormatOptions options,
            Detected path,
            ElementEdits elements,
            RowEdits edits,
            OutputStream out)
            throws IOException {
        DecodedText decoded = decoded(bytes, options);
        try (XmlRecords records = XmlRecords.over(bytes.file(), decoded.reader(), path, Set.of());
                CopiedText text = CopiedText.open(bytes, decoded.charset(), out)) {
            new XmlEdits(text, elements, edits).copy(bytes.file(), records);
        } catch (XMLStreamException e) {
            throw SafeXml.malformed(bytes.file(), e, 0);
        }
    }

    /** The file's characters; its own word on its encoding counts where the job says nothing. */
    private static DecodedText decoded(SourceBytes bytes, FormatOptions options) throws IOException {
        Map<String, String> stated = new HashMap<>(options.stated());
        if (!stated.containsKey(DecodedText.ENCODING)) {
            stated.put(DecodedText.ENCODING, encoding(bytes));
        }
        return DecodedText.open(bytes, FormatOptions.of(stated));
    }

    private static String encoding(SourceBytes bytes) throws IOException {
        try (InputStream in = bytes.open()) {
            XMLStreamReader2 reader = SafeXml.reader(in, null);
            String encoding = reader.getEncoding();
            reader.close();
            return encoding == null ? ENCODING_UNLESS_SAID : encoding;
        } catch (XMLStreamException e) {
            throw SafeXml.malformed(bytes.file(), e, 0);
        }
    }

    private void copy(String file, XmlRecords records) throws IOException {
        for (FlatRecord record = records.next(); record != null; record = records.next()) {
            XmlRecords.Span span = records.span();
            parents.add(record.path().substring(0, record.path().lastIndexOf('/')));
            text.before(span.before());
            lead = text.take(span.start());
            last = text.take(span.end());
            RowEdits.Edit edit = edits.at("", record.line(), record.path());
            boolean gone = edit != null && edit.gone();
            put(gone && lead.isBlank() ? "" : lead);
            put(edit == null ? last : gone ? "" : elements.changed(last, edit));
        }
        add(file);
        text.rest();
    }

    private void add(String file) throws IOException {
        String blanks = lead.isBlank() ? lead : "";
        for (@Nullable Object[] cells = edits.next(); cells != null; cells = edits.next()) {
            if (parents.size() != 1 || parents.contains("")) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.OUTPUT_UNFIT,
                        "The records of " + file + " lie in no element or in several, so a new one has no place.",
                        "Write such a file whole with action: issue, or only change its records with action: update."));
            }
            put(blanks + elements.added(last, blanks, cells));
        }
    }

    /** Puts XML in; what the file's encoding doesn't have is spelled by number. */
    private void put(String xml) throws IOException {
        if (text.canHold(xml)) {
            text.put(xml);
            return;
        }
        for (int one : xml.codePoints().toArray()) {
            String character = Character.toString(one);
            // only values hold such characters, and there a number means the same
            text.put(text.canHold(character) ? character : "&#" + one + ";");
        }
    }
}
