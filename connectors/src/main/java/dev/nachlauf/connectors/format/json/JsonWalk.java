package dev.nachlauf.connectors.format.json;

import dev.nachlauf.connectors.format.nested.FlatRecord;
import dev.nachlauf.connectors.format.nested.RecordPath;
import java.io.StringWriter;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.TokenStreamLocation;

/**
 * Walks the tokens of one document and stops at every record. Only the way down to the record at hand is held: the
 * scalars of the objects on it, which the record inherits.
 */
final class JsonWalk {
    private static final String OUTERMOST = "root";
    private static final String PLAIN = "value";
    private static final String UP = "../";

    private final JsonParser parser;
    private final RecordPath path;
    private final Map<String, String> addresses;
    private final Deque<Level> levels = new ArrayDeque<>();
    private boolean started;
    private Span span = Span.NONE;
    private @Nullable Span lastList;
    private long lists;

    /**
     * Where a record stands in the text, or the room behind the last one of a list; places are counted in characters.
     *
     * @param list the pointer of its list; null where it is in none
     * @param index its number in the list, from 0
     * @param before where that ends which stands before it in the list: another element, or the list's bracket
     */
    record Span(@Nullable String list, long index, long before, long start, long end) {
        private static final Span NONE = new Span(null, 0, 0, 0, 0);
    }

    /** An object or list on the way down; {@code depth} names of the path lead to it. */
    private static final class Level {
        private final boolean list;
        private final int depth;
        private final String pointer;
        private final Map<String, Object> scalars = new LinkedHashMap<>();
        /** Where each scalar stands below the level. */
        private final Map<String, String> addresses = new HashMap<>();

        private long index;
        /** Where its last element ends. */
        private long ends;

        Level(boolean list, int depth, String pointer) {
            this.list = list;
            this.depth = depth;
            this.pointer = pointer;
        }
    }

    JsonWalk(JsonParser parser, RecordPath path, Map<String, String> addresses) {
        this.parser = parser;
        this.path = path;
        this.addresses = addresses;
    }

    /** The next record; null at the document's end. */
    @Nullable
    FlatRecord next() {
        if (!started) {
            started = true;
            FlatRecord record = enter(parser.nextToken(), 0, "");
            if (record != null) {
                return record;
            }
        }
        while (!levels.isEmpty()) {
            Level level = levels.element();
            if (level.list) {
                level.ends = parser.currentLocation().getCharOffset();
            }
            JsonToken token = parser.nextToken();
            if (token == JsonToken.END_OBJECT || token == JsonToken.END_ARRAY) {
                leave(level);
            } else {
                FlatRecord record = level.list ? element(level, token) : member(level);
                if (record != null) {
                    return record;
                }
            }
        }
        return null;
    }

    /** Where the record that was given last stands. */
    Span span() {
        return span;
    }

    /** The room behind the last record of the one list; null where records lie in none, in several, or lists in lists. */
    @Nullable
    Span onlyList() {
        return lists == 1 ? lastList : null;
    }

    private Span span(long start, long end) {
        Level list = levels.peek();
        return list == null || !list.list
                ? new Span(null, 0, start, start, end)
                : new Span(list.pointer, list.index - 1, list.ends, start, end);
    }

    private void leave(Level level) {
        levels.pop();
        if (level.list && level.depth == path.depth()) {
            lists++;
            lastList = new Span(level.pointer, level.index, level.ends, level.ends, level.ends);
        } else if (level.list) {
            // what lies below has several lists as soon as this one has several elements
            lists += Math.max(0, level.index - 1);
        }
    }

    private @Nullable FlatRecord element(Level level, JsonToken token) {
        return enter(token, level.depth, level.pointer + "/" + level.index++);
    }

    private @Nullable FlatRecord member(Level level) {
        String name = parser.currentName();
        JsonToken value = parser.nextToken();
        if (level.depth < path.depth() && path.names().get(level.depth).equals(name)) {
            return enter(value, level.depth + 1, level.pointer + "/" + escaped(name));
        }
        carry(level, name, escaped(name), value);
        return null;
    }

    /** A value that the records below carry; objects give their own values, lists are passed over. */
    private void carry(Level level, String name, String address, JsonToken value) {
        if (value == JsonToken.START_OBJECT) {
            while (parser.nextToken() != JsonToken.END_OBJECT) {
                String part = parser.currentName();
                carry(level, name + "." + part, address + "/" + escaped(part), parser.nextToken());
            }
        } else if (value.isScalarValue()) {
            Object scalar = Json.scalar(parser);
            if (scalar != null && level.scalars.size() < FlatRecord.MOST_VALUES) {
                level.scalars.put(name, scalar);
                level.addresses.put(name, address);
            }
        } else {
            parser.skipChildren();
        }
    }

    /** RFC 6901: ~ and / have a meaning of their own in a pointer. */
    static String escaped(String name) {
        return name.replace("~", "~0").replace("/", "~1");
    }

    private @Nullable FlatRecord enter(@Nullable JsonToken token, int depth, String pointer) {
        if (token == JsonToken.START_ARRAY) {
            levels.push(new Level(true, depth, pointer));
            return null;
        }
        if (depth < path.depth()) {
            if (token == JsonToken.START_OBJECT) {
                levels.push(new Level(false, depth, pointer));
            }
            return null;
        }
        if (token == null || token == JsonToken.VALUE_NULL) {
            return null;
        }
        TokenStreamLocation start = parser.currentTokenLocation();
        FlatRecord record = new FlatRecord(start.getLineNr(), pointer);
        inherit(record, pointer);
        if (token == JsonToken.START_OBJECT) {
            object(record, "", "");
        } else {
            put(record, PLAIN, "", Json.scalar(parser));
        }
        span = span(start.getCharOffset(), parser.currentLocation().getCharOffset());
        return record;
    }

    private void inherit(FlatRecord record, String pointer) {
        long own = parts(pointer);
        levels.descendingIterator().forEachRemaining(level -> {
            if (!level.list && !level.scalars.isEmpty()) {
                String name = level.depth == 0
                        ? OUTERMOST
                        : String.join(".", path.names().subList(0, level.depth));
                String up = UP.repeat((int) (own - parts(level.pointer)));
                level.scalars.forEach(
                        (field, value) -> put(record, name + "." + field, up + level.addresses.get(field), value));
            }
        });
    }

    private static long parts(String pointer) {
        return pointer.chars().filter(c -> c == '/').count();
    }

    private void object(FlatRecord record, String prefix, String address) {
        while (parser.nextToken() != JsonToken.END_OBJECT) {
            String name = parser.currentName();
            String full = prefix.isEmpty() ? name : prefix + "." + name;
            String at = address + "/" + escaped(name);
            JsonToken value = parser.nextToken();
            if (value == JsonToken.START_OBJECT) {
                object(record, full, at);
            } else if (value == JsonToken.START_ARRAY) {
                put(record, full, at, text());
            } else {
                put(record, full, at, Json.scalar(parser));
            }
        }
    }

    /** A list inside a record stays what it is. */
    private String text() {
        StringWriter text = new StringWriter();
        try (JsonGenerator out = Json.FACTORY.createGenerator(tools.jackson.core.ObjectWriteContext.empty(), text)) {
            out.copyCurrentStructure(parser);
        }
        return text.toString();
    }

    private void put(FlatRecord record, String name, String address, @Nullable Object value) {
        if (addresses.size() < FlatRecord.MOST_VALUES) {
            addresses.putIfAbsent(name, address);
        }
        record.put(name, value);
    }
}
