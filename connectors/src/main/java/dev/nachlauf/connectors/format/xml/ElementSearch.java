package dev.nachlauf.connectors.format.xml;

import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.connectors.format.nested.RecordPath;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceBytes;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.ArrayDeque;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/** Finds elements that repeat: the outermost ones are the records, most likely. */
final class ElementSearch {
    private static final int LOOKED_AT = 20_000;

    private ElementSearch() {}

    /** An open element: its path, and the names of its children so far. */
    private record Open(String path, Set<String> children) {}

    static Detected find(SourceBytes bytes, FormatOptions options) {
        Set<String> repeated = new LinkedHashSet<>();
        Set<String> parents = new HashSet<>();
        String root = "";
        try (InputStream in = bytes.open()) {
            XMLStreamReader reader =
                    SafeXml.reader(in, options.text(DecodedText.ENCODING).orElse(null));
            Deque<Open> open = new ArrayDeque<>();
            for (int events = 0; events < LOOKED_AT && reader.hasNext(); events++) {
                int event = SafeXml.next(reader, bytes.file());
                if (event == XMLStreamConstants.START_ELEMENT) {
                    String name = reader.getLocalName();
                    String path = open.isEmpty() ? name : open.element().path + "." + name;
                    root = open.isEmpty() ? name : root;
                    if (!open.isEmpty()) {
                        parents.add(open.element().path);
                        if (!open.element().children.add(name)) {
                            repeated.add(path);
                        }
                    }
                    if (reader.getAttributeCount() > 0) {
                        parents.add(path);
                    }
                    open.push(new Open(path, new HashSet<>()));
                } else if (event == XMLStreamConstants.END_ELEMENT) {
                    open.pop();
                }
            }
            reader.close();
        } catch (XMLStreamException e) {
            // reading will say what is wrong and how far it came
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        // an element without attributes and children of its own is a value, not a record
        repeated.retainAll(parents);
        return chosen(repeated, root);
    }

    private static Detected chosen(Set<String> repeated, String root) {
        if (repeated.isEmpty()) {
            return new Detected(
                    RecordPath.RECORD.name(), root, 0.3, "no element repeats, so the whole document is one record");
        }
        String first = repeated.stream()
                .min(Comparator.comparingInt(path -> path.split("\\.").length))
                .orElseThrow();
        List<String> others =
                repeated.stream().filter(path -> !path.equals(first)).toList();
        String also =
                others.isEmpty() ? "" : "; others: " + others.stream().limit(8).collect(Collectors.joining(", "));
        return new Detected(
                RecordPath.RECORD.name(),
                first,
                others.isEmpty() ? 0.95 : 0.6,
                "it is the outermost element that repeats" + also);
    }
}
