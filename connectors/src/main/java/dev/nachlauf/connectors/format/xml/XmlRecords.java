package dev.nachlauf.connectors.format.xml;

import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.connectors.format.nested.FlatRecord;
import dev.nachlauf.connectors.format.nested.NestedReader;
import dev.nachlauf.connectors.format.nested.RecordSource;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceBytes;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;
import org.jspecify.annotations.Nullable;

/**
 * The records of one XML file. Only the elements on the way down to the record at hand are held, with their attributes
 * and plain children so far, which the record inherits. Behind broken markup nothing can be found, so reading ends there.
 */
final class XmlRecords implements RecordSource {
    private final String file;
    private final Closeable in;
    private final XMLStreamReader2 reader;
    private final Detected path;
    private final List<String> names;
    private final Set<String> leftOut;
    private final Set<String> repeated = new TreeSet<>();
    private final Map<String, String> addresses = new LinkedHashMap<>();
    private final Deque<Level> levels = new ArrayDeque<>();
    private long records;
    private Span span = new Span(0, 0, 0);
    /** Where the tag ends that was met last, outside of records. */
    private long tagEnd;

    /**
     * Where a record stands in the text, in characters.
     *
     * @param before where the tag before it ends
     */
    record Span(long before, long start, long end) {}

    /** An element on the way down. */
    private static final class Level {
        private final String name;
        private final String path;
        private final Map<String, String> values = new LinkedHashMap<>();
        private final Map<String, Integer> children = new HashMap<>();

        Level(String name, String path) {
            this.name = name;
            this.path = path;
        }

        String child(String child) {
            return path + "/" + child + "[" + children.merge(child, 1, Integer::sum) + "]";
        }
    }

    private XmlRecords(String file, Closeable in, XMLStreamReader2 reader, Detected path, Set<String> leftOut) {
        this.file = file;
        this.in = in;
        this.reader = reader;
        this.path = path;
        this.names = List.of(path.value().split("\\."));
        this.leftOut = leftOut;
    }

    static XmlRecords open(SourceBytes bytes, FormatOptions options, Detected path, Set<String> leftOut) {
        try {
            InputStream in = bytes.open();
            try {
                String encoding = options.text(DecodedText.ENCODING).orElse(null);
                return new XmlRecords(bytes.file(), in, SafeXml.reader(in, encoding), path, leftOut);
            } catch (XMLStreamException e) {
                in.close();
                throw SafeXml.malformed(bytes.file(), e, 0);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** The records of characters, which tell where they stand; to be closed, the characters with it. */
    static XmlRecords over(String file, Reader characters, Detected path, Set<String> leftOut)
            throws XMLStreamException {
        return new XmlRecords(file, characters, SafeXml.reader(characters), path, leftOut);
    }

    @Override
    public @Nullable FlatRecord next() {
        try {
            while (reader.hasNext()) {
                int event = SafeXml.next(reader, file);
                if (event == XMLStreamConstants.END_ELEMENT) {
                    levels.pop();
                } else if (event == XMLStreamConstants.START_ELEMENT) {
                    long start = reader.getLocationInfo().getStartingCharOffset();
                    FlatRecord record = enter();
                    if (record != null) {
                        records++;
                        span = new Span(tagEnd, start, end());
                        tagEnd = span.end;
                        return record;
                    }
                }
                tagEnd = event == XMLStreamConstants.CHARACTERS ? tagEnd : end();
            }
            return null;
        } catch (XMLStreamException e) {
            throw SafeXml.malformed(file, e, records);
        }
    }

    /** Where the record that was given last stands. */
    Span span() {
        return span;
    }

    private long end() throws XMLStreamException {
        return reader.getLocationInfo().getEndingCharOffset();
    }

    private @Nullable FlatRecord enter() throws XMLStreamException {
        String name = reader.getLocalName();
        Level parent = levels.peek();
        String at = parent == null ? "/" + name : parent.child(name);
        if (!isOnPath(name)) {
            carry(parent, name);
            return null;
        }
        if (depth(name) < names.size()) {
            Level level = new Level(name, at);
            for (int i = 0; i < reader.getAttributeCount(); i++) {
                level.values.put("@" + reader.getAttributeLocalName(i), reader.getAttributeValue(i));
            }
            levels.push(level);
            return null;
        }
        FlatRecord record = new FlatRecord(Math.max(1, reader.getLocation().getLineNumber()), at);
        inherit(record);
        element(record, "", "", new HashSet<>());
        return record;
    }

    /** What a plain child of an element on the way says: its attributes and its text. */
    private void carry(@Nullable Level parent, String name) throws XMLStreamException {
        Map<String, String> values = new LinkedHashMap<>();
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            values.put(name + "/@" + reader.getAttributeLocalName(i), reader.getAttributeValue(i));
        }
        String text = plainText();
        if (text != null && parent != null && parent.values.size() < FlatRecord.MOST_VALUES) {
            parent.values.putAll(values);
            parent.values.put(name, text);
        }
    }

    /** A path may leave the outermost element out. */
    private boolean isOnPath(String name) {
        int depth = depth(name);
        return depth == 0 || depth <= names.size() && names.get(depth - 1).equals(name);
    }

    /** How many names of the path lead to an element of this name below the level at hand. */
    private int depth(String name) {
        Level outermost = levels.peekLast();
        boolean whole = Objects.equals(outermost == null ? name : outermost.name, names.getFirst());
        return levels.size() + (whole ? 1 : 0);
    }

    private void inherit(FlatRecord record) {
        int[] up = {levels.size()};
        levels.descendingIterator().forEachRemaining(level -> {
            String drop = "../".repeat(up[0]--);
            level.values.forEach((field, value) ->
                    put(record, level.name + "." + field.replace("/@", ".").replace("@", ""), drop + field, value));
        });
    }

    /** The text of an element without children; null where it has some, which are passed over. */
    private @Nullable String plainText() throws XMLStreamException {
        StringBuilder text = new StringBuilder();
        boolean plain = true;
        int depth = 1;
        while (depth > 0) {
            switch (SafeXml.next(reader, file)) {
                case XMLStreamConstants.START_ELEMENT -> {
                    depth++;
                    plain = false;
                }
                case XMLStreamConstants.END_ELEMENT -> depth--;
                case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA -> {
                    if (plain) {
                        text.append(reader.getText());
                    }
                }
                default -> {
                    // comments and instructions say nothing
                }
            }
        }
        return plain ? text.toString().strip() : null;
    }

    private void element(FlatRecord record, String prefix, String address, Set<String> seen) throws XMLStreamException {
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            String attribute = reader.getAttributeLocalName(i);
            put(record, dotted(prefix, attribute), address + "/@" + attribute, reader.getAttributeValue(i));
        }
        StringBuilder text = new StringBuilder();
        while (true) {
            switch (SafeXml.next(reader, file)) {
                case XMLStreamConstants.START_ELEMENT -> child(record, prefix, address, seen);
                case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA -> text.append(reader.getText());
                case XMLStreamConstants.END_ELEMENT -> {
                    String own = text.toString().strip();
                    if (!own.isEmpty()) {
                        put(record, prefix.isEmpty() ? "text" : prefix, address, own);
                    }
                    return;
                }
                default -> {
                    // comments and instructions say nothing
                }
            }
        }
    }

    private void child(FlatRecord record, String prefix, String address, Set<String> seen) throws XMLStreamException {
        String name = reader.getLocalName();
        String full = dotted(prefix, name);
        if (NestedReader.isWithin(full, leftOut)) {
            plainText();
        } else if (seen.add(full)) {
            element(record, full, address + "/" + name, seen);
        } else {
            repeated.add(full);
            record.problem(ProblemCode.ROW_RAGGED, "The record has " + full + " more than once.");
            plainText();
        }
    }

    private static String dotted(String prefix, String name) {
        return prefix.isEmpty() ? name : prefix + "." + name;
    }

    private void put(FlatRecord record, String name, String address, String value) {
        if (addresses.size() < FlatRecord.MOST_VALUES) {
            addresses.putIfAbsent(name, address);
        }
        record.put(name, value.isEmpty() ? null : value);
    }

    @Override
    public Map<String, String> addresses() {
        return addresses;
    }

    @Override
    public Set<String> repeated() {
        return repeated;
    }

    @Override
    public List<Detected> options() {
        String encoding = reader.getCharacterEncodingScheme();
        return encoding == null
                ? List.of(path)
                : List.of(path, new Detected(DecodedText.ENCODING, encoding, 1, "the file says so"));
    }

    @Override
    public void close() {
        try {
            reader.close();
            in.close();
        } catch (XMLStreamException | IOException e) {
            throw new IllegalStateException(e);
        }
    }
}
