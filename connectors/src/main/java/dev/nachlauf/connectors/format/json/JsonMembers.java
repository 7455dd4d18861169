package dev.nachlauf.connectors.format.json;

import java.io.StringWriter;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;

/**
 * Spells members of an object.
 *
 * @param addresses of all cells: JSON pointers below the record
 * @param lead what stands before each name
 * @param colon what stands between name and value
 */
record JsonMembers(List<String> addresses, @Nullable Object[] cells, String lead, String colon) {
    /** Without blanks between. */
    static JsonMembers compact(List<String> addresses, @Nullable Object[] cells) {
        return new JsonMembers(addresses, cells, "", ":");
    }

    /** An object of its own; see {@link #text}. */
    String object(String address, BitSet which) {
        return "{" + text(address, which) + "}";
    }

    /**
     * Members as text, with commas between them; objects where addresses lead further down.
     *
     * @param object the address of the object
     * @param which cells, all of them below it
     */
    String text(String object, BitSet which) {
        Map<String, BitSet> below = new LinkedHashMap<>();
        which.stream().forEach(cell -> {
            String rest = addresses.get(cell).substring(object.length() + 1);
            String name = rest.indexOf('/') < 0 ? rest : rest.substring(0, rest.indexOf('/'));
            below.computeIfAbsent(object + "/" + name, address -> new BitSet()).set(cell);
        });
        List<String> members = new ArrayList<>();
        below.forEach((address, some) -> {
            int cell = some.nextSetBit(0);
            String value = addresses.get(cell).equals(address)
                    ? value(cells[cell])
                    : compact(addresses, cells).object(address, some);
            members.add(lead + value(unescaped(address.substring(object.length() + 1))) + colon + value);
        });
        return String.join(",", members);
    }

    private static String unescaped(String name) {
        return name.replace("~1", "/").replace("~0", "~");
    }

    /** A value as JSON. */
    static String value(@Nullable Object value) {
        StringWriter text = new StringWriter();
        try (JsonGenerator json = JsonOutput.FACTORY.createGenerator(ObjectWriteContext.empty(), text)) {
            JsonOutput.write(json, value);
        }
        return text.toString();
    }
}
