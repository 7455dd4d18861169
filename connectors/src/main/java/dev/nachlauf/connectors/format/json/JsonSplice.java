package dev.nachlauf.connectors.format.json;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.RowEdits;
import java.util.BitSet;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.ObjectReadContext;

/** Changes values in the text of one object, and leaves all else in its place. */
final class JsonSplice {
    private final String file;
    private final String object;
    private final List<String> addresses;
    private final @Nullable Object[] cells;
    /** The cells that still have to find their place. */
    private final BitSet open;

    private final StringBuilder out = new StringBuilder();
    private int copied;

    JsonSplice(String file, String object, List<String> addresses, RowEdits.Edit edit) {
        this.file = file;
        this.object = object;
        this.addresses = addresses;
        this.cells = edit.cells();
        this.open = (BitSet) edit.changed().clone();
    }

    /** The changed text. */
    String text() {
        try (JsonParser parser = Json.FACTORY.createParser(ObjectReadContext.empty(), object)) {
            if (parser.nextToken() != JsonToken.START_OBJECT) {
                throw unfit("A record of " + file + " that changes is no object.");
            }
            object(parser, "");
        }
        return out.append(object, copied, object.length()).toString();
    }

    private void object(JsonParser parser, String address) {
        int last = place(parser);
        int opened = last;
        String lead = "";
        String colon = ":";
        while (parser.nextToken() == JsonToken.PROPERTY_NAME) {
            int name = (int) parser.currentTokenLocation().getCharOffset();
            String member = address + "/" + JsonWalk.escaped(parser.currentName());
            JsonToken value = parser.nextToken();
            if (last == opened) {
                lead = object.substring(opened, name);
                colon = between(parser, name);
            }
            member(parser, member, value);
            last = place(parser);
        }
        add(address, last, last > opened, lead, colon);
    }

    /** What stands between a name and its value. */
    private String between(JsonParser parser, int name) {
        String text = object.substring(name, (int) parser.currentTokenLocation().getCharOffset());
        return text.substring(text.lastIndexOf('"') + 1);
    }

    private void member(JsonParser parser, String address, JsonToken value) {
        int cell = addresses.indexOf(address);
        if (cell >= 0 && open.get(cell)) {
            if (value == JsonToken.START_ARRAY || value == JsonToken.START_OBJECT) {
                throw unfit(address.substring(1) + " in " + file + " holds more than one value.");
            }
            open.clear(cell);
            replace(parser, JsonMembers.value(cells[cell]));
        } else if (value == JsonToken.START_OBJECT) {
            object(parser, address);
        } else if (value == JsonToken.VALUE_NULL && !below(address).isEmpty()) {
            BitSet some = below(address);
            open.andNot(some);
            replace(parser, JsonMembers.compact(addresses, cells).object(address, some));
        } else if (!below(address).isEmpty()) {
            throw unfit(address.substring(1) + " in " + file + " is no object, so nothing can be put into it.");
        } else {
            parser.skipChildren();
            parser.finishToken();
        }
    }

    private void replace(JsonParser parser, String by) {
        copy((int) parser.currentTokenLocation().getCharOffset());
        parser.finishToken();
        out.append(by);
        copied = place(parser);
    }

    /** Adds members that the object doesn't have. */
    private void add(String address, int last, boolean any, String lead, String colon) {
        BitSet missing = below(address);
        open.andNot(missing);
        BitSet filled = new BitSet();
        missing.stream().filter(cell -> cells[cell] != null).forEach(filled::set);
        if (!filled.isEmpty()) {
            copy(last);
            out.append(any ? "," : "").append(new JsonMembers(addresses, cells, lead, colon).text(address, filled));
        }
    }

    private BitSet below(String address) {
        BitSet below = new BitSet();
        open.stream()
                .filter(cell -> addresses.get(cell).startsWith(address + "/"))
                .forEach(below::set);
        return below;
    }

    private void copy(int end) {
        out.append(object, copied, end);
        copied = end;
    }

    private static int place(JsonParser parser) {
        return (int) parser.currentLocation().getCharOffset();
    }

    private static CannotGoOn unfit(String sentence) {
        return new CannotGoOn(Problem.of(
                ProblemCode.OUTPUT_UNFIT, sentence, "Correct the file there, or leave the field out of the map."));
    }
}
