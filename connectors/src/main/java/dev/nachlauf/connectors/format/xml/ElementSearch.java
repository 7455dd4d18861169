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

    private final Deque<Open> open = new ArrayDeque<>();
    private final Set<String> repeated = new LinkedHashSet<>();
    private final Set<String> parents = new HashSet<>();
    /** The elements within the outermost one. */
    private final Set<String> outer = new HashSet<>();

    private String root = "";

    private ElementSearch() {}

    /** An open element: its path, and the names of its children so far. */
    private record Open(String path, Set<String> children) {}

    static Detected find(SourceBytes bytes, FormatOptions options) {
        ElementSearch search = new ElementSearch();
        try (InputStream in = bytes.open()) {
            XMLStreamReader reader =
                    SafeXml.reader(in, options.text(DecodedText.ENCODING).orElse(null));
            for (int events = 0; events < LOOKED_AT && reader.hasNext(); events++) {
                int event = SafeXml.next(reader, bytes.file());
                if (event == XMLStreamConstants.START_ELEMENT) {
                    search.start(reader.getLocalName(), reader.getAttributeCount() > 0);
                } else if (event == XMLStreamConstants.END_ELEMENT) {
                    search.open.pop();
                }
            }
            reader.close();
        } catch (XMLStreamException e) {
            // reading will say what is wrong and how far it came
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return search.chosen();
    }

    private void start(String name, boolean attributes) {
        Open around = open.peek();
        String path = around == null ? name : around.path + "." + name;
        if (around == null) {
            root = name;
        } else {
            parents.add(around.path);
            if (!around.children.add(name)) {
                repeated.add(path);
            }
        }
        if (open.size() == 1) {
            outer.add(path);
        }
        if (attributes) {
            parents.add(path);
        }
        open.push(new Open(path, new HashSet<>()));
    }

    private Detected chosen() {
        // an element without attributes and children of its own is a value, not a record
        repeated.retainAll(parents);
        if (repeated.isEmpty() && outer.size() == 1 && parents.containsAll(outer)) {
            return new Detected(
                    RecordPath.RECORD.name(),
                    outer.iterator().next(),
                    0.5,
                    "it is all that the outermost element holds, as in a list of one");
        }
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
