package dev.nachlauf.connectors.format.json;

import dev.nachlauf.connectors.format.encoding.EditedLines;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.RowEdits;
import java.io.StringWriter;
import java.util.BitSet;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.ObjectReadContext;
import tools.jackson.core.ObjectWriteContext;

/** Objects on lines of their own with edits. Members that don't change keep their place and value, whatever it holds. */
record JsonLineEdits(String file, List<String> names) implements EditedLines.Rows {
    @Override
    public String changed(String line, RowEdits.Edit edit) {
        StringWriter changed = new StringWriter();
        BitSet open = (BitSet) edit.changed().clone();
        try (JsonParser parser = Json.FACTORY.createParser(ObjectReadContext.empty(), line);
                JsonGenerator json = JsonOutput.FACTORY.createGenerator(ObjectWriteContext.empty(), changed)) {
            if (parser.nextToken() != JsonToken.START_OBJECT) {
                throw unfit("A line of " + file + " that changes is no object.");
            }
            json.writeStartObject();
            while (parser.nextToken() == JsonToken.PROPERTY_NAME) {
                String name = parser.currentName();
                int index = names.indexOf(name);
                requireWhole(name, open);
                json.writeName(name);
                parser.nextToken();
                if (index >= 0 && open.get(index)) {
                    parser.skipChildren();
                    JsonOutput.write(json, edit.cells()[index]);
                    open.clear(index);
                } else {
                    json.copyCurrentStructureExact(parser);
                }
            }
            members(json, open, edit.cells());
            json.writeEndObject();
        }
        return changed.toString();
    }

    /** A field inside of an object can't be changed alone. */
    private void requireWhole(String name, BitSet open) {
        open.stream()
                .filter(index -> names.get(index).startsWith(name + "."))
                .findFirst()
                .ifPresent(index -> {
                    throw unfit("The field " + names.get(index) + " of " + file + " lies inside of " + name + ".");
                });
    }

    private static CannotGoOn unfit(String sentence) {
        return new CannotGoOn(Problem.of(
                ProblemCode.OUTPUT_UNFIT, sentence, "Only members of the objects themselves can be changed."));
    }

    /** Members that weren't there. */
    private void members(JsonGenerator json, BitSet which, @Nullable Object[] cells) {
        which.stream().filter(index -> cells[index] != null).forEach(index -> {
            json.writeName(names.get(index));
            JsonOutput.write(json, cells[index]);
        });
    }

    @Override
    public String line(@Nullable Object[] cells) {
        StringWriter line = new StringWriter();
        try (JsonGenerator json = JsonOutput.FACTORY.createGenerator(ObjectWriteContext.empty(), line)) {
            json.writeStartObject();
            BitSet all = new BitSet();
            all.set(0, cells.length);
            members(json, all, cells);
            json.writeEndObject();
        }
        return line.toString();
    }
}
