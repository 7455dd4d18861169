package dev.nachlauf.core.document;

import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.text.Span;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import org.snakeyaml.engine.v2.common.FlowStyle;
import org.snakeyaml.engine.v2.common.ScalarStyle;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;
import org.snakeyaml.engine.v2.nodes.Tag;

/** One map of a document. Ask for its keys, then call {@link #done}: keys that nobody asked for are problems. */
public final class Section {
    private final Document document;
    private final MappingNode node;
    private final String name;
    private final Map<String, Node> keys = new LinkedHashMap<>();
    private final Map<String, Node> values = new LinkedHashMap<>();
    private final TreeSet<String> asked = new TreeSet<>();

    Section(Document document, MappingNode node, String name) {
        this.document = document;
        this.node = node;
        this.name = name;
        Node previous = null;
        int cut = 0;
        for (NodeTuple entry : node.getValue()) {
            if (!(entry.getKeyNode() instanceof ScalarNode key)) {
                wrongKind(entry.getKeyNode(), "A key is a plain word.");
                continue;
            }
            if (previous != null && node.getFlowStyle() == FlowStyle.FLOW && isEmpty(entry.getValueNode())) {
                Optional<Problem> trap = YamlTraps.cutByComma(document.source(), document.span(previous));
                cut = trap.map(Section::end).orElse(cut);
                trap.ifPresent(document::add);
                previous = trap.isPresent() ? null : previous;
            }
            if (cut > 0 && document.span(key).start() < cut) {
                asked.add(key.getValue());
                continue;
            }
            if (values.containsKey(key.getValue())) {
                document.add(
                        document.span(key),
                        ProblemCode.NAME_TAKEN,
                        "The key " + key.getValue() + " stands here twice.",
                        "Keep one.");
            }
            keys.put(key.getValue(), key);
            values.put(key.getValue(), entry.getValueNode());
            previous = entry.getValueNode();
        }
    }

    MappingNode node() {
        return node;
    }

    /** All keys as they stand. */
    public List<String> keys() {
        return List.copyOf(values.keySet());
    }

    /** Whether a key is there, even with an empty value. */
    public boolean has(String key) {
        asked.add(key);
        return values.containsKey(key);
    }

    /** The place of a key, or of the section where it is missing. */
    public Place placeOf(String key) {
        Node at = keys.get(key);
        return document.place(at == null ? headSpan() : document.span(at));
    }

    /** The place of a key's value, or of the section where it is missing. */
    public Place placeOfValue(String key) {
        Node at = values.get(key);
        return document.place(at == null ? headSpan() : document.span(at));
    }

    /** The place of the section's start. */
    public Place place() {
        return document.place(headSpan());
    }

    /** The place of an item of a list. */
    public Place placeOfItem(String key, int index) {
        return values.get(key) instanceof SequenceNode list
                        && index < list.getValue().size()
                ? document.place(document.span(list.getValue().get(index)))
                : placeOfValue(key);
    }

    /** A word or sentence; numbers and truths as they are written. */
    public Optional<String> text(String key) {
        Node value = value(key);
        if (value == null) {
            return Optional.empty();
        }
        if (value instanceof ScalarNode scalar && !isEmpty(scalar)) {
            return Optional.of(scalar.getValue());
        }
        wrongKind(value, key + " needs a value.");
        return Optional.empty();
    }

    /** A word or sentence that must be there. */
    public Optional<String> requiredText(String key) {
        require(key);
        return text(key);
    }

    /** A whole number that must lie between bounds. */
    public Optional<Integer> integer(String key, int least, int most) {
        return text(key).flatMap(text -> {
            try {
                int number = Integer.parseInt(text);
                if (number >= least && number <= most) {
                    return Optional.of(number);
                }
            } catch (NumberFormatException e) {
                // said below
            }
            wrongKind(values.get(key), key + " needs a whole number from " + least + " to " + most + ".");
            return Optional.empty();
        });
    }

    /** A map under a key. */
    public Optional<Section> section(String key) {
        Node value = value(key);
        if (value == null) {
            return Optional.empty();
        }
        if (value instanceof MappingNode map) {
            return Optional.of(new Section(document, map, key));
        }
        wrongKind(value, key + " needs keys of its own on lines below it.");
        return Optional.empty();
    }

    /** A map that must be there. */
    public Optional<Section> requiredSection(String key) {
        require(key);
        return section(key);
    }

    /** A list of maps; a single map counts as a list of one. */
    public List<Section> sections(String key) {
        Node value = value(key);
        if (value instanceof MappingNode map) {
            return List.of(new Section(document, map, key));
        }
        if (value != null && !(value instanceof SequenceNode)) {
            wrongKind(value, key + " needs a list; each entry starts with a dash.");
        }
        List<Section> sections = new ArrayList<>();
        if (value instanceof SequenceNode list) {
            for (Node item : list.getValue()) {
                if (item instanceof MappingNode map) {
                    sections.add(new Section(document, map, key));
                } else {
                    wrongKind(item, "An entry of " + key + " needs keys of its own.");
                }
            }
        }
        return sections;
    }

    /** A list of words; a single word counts as a list of one. */
    public List<String> texts(String key) {
        Node value = value(key);
        if (value instanceof ScalarNode scalar && !isEmpty(scalar)) {
            return List.of(scalar.getValue());
        }
        List<String> texts = new ArrayList<>();
        if (value instanceof SequenceNode list) {
            for (Node item : list.getValue()) {
                if (item instanceof ScalarNode scalar && !isEmpty(scalar)) {
                    texts.add(scalar.getValue());
                } else {
                    wrongKind(item, "An entry of " + key + " is a word.");
                }
            }
        } else if (value != null) {
            wrongKind(value, key + " needs a word or a list of words in [ ].");
        }
        return texts;
    }

    /** Whether a key has no value. */
    public boolean isEmpty(String key) {
        asked.add(key);
        Node value = values.get(key);
        return value == null || isEmpty(value);
    }

    /** Whether the value of a key is a map. */
    public boolean isSection(String key) {
        return values.get(key) instanceof MappingNode;
    }

    /** Whether the value of a key is a list. */
    public boolean isList(String key) {
        return values.get(key) instanceof SequenceNode;
    }

    /** A formula with the place of each of its characters. */
    public Optional<FormulaSource> formula(String key) {
        Node value = value(key);
        return value == null ? Optional.empty() : new FormulaText(document).of(key, value);
    }

    /** A key as a formula, for what is named like the field that it is made of. */
    public FormulaSource formulaOfKey(String key) {
        Node at = keys.get(key);
        return at == null ? FormulaSource.of(key) : new FormulaText(document).aligned(key, document.span(at));
    }

    private static int end(Problem problem) {
        return problem.place() instanceof Place.InText text ? text.span().end() : 0;
    }

    /** Notes that a key is missing. */
    public void require(String key) {
        asked.add(key);
        if (!values.containsKey(key)) {
            String where = name.isEmpty() ? "the document" : name;
            document.add(
                    headSpan(),
                    ProblemCode.KEY_MISSING,
                    "The key " + key + " is missing in " + where + ".",
                    "Add " + key + ": …");
        }
    }

    /** Adds a problem at the value of a key. */
    public void problem(String key, ProblemCode code, String sentence, String remedy) {
        Node at = values.containsKey(key) ? values.get(key) : node;
        document.add(document.span(at), code, sentence, remedy);
    }

    /** Reports the keys that nobody asked for. */
    public void done() {
        for (String key : values.keySet()) {
            if (!asked.contains(key)) {
                Node at = keys.get(key);
                document.add(
                        at == null ? headSpan() : document.span(at),
                        ProblemCode.KEY_UNKNOWN,
                        "The key " + key + " has no meaning " + (name.isEmpty() ? "here." : "in " + name + "."),
                        NearestNames.suggestion(key, asked, "Keys here: " + String.join(", ", asked) + "."));
            }
        }
    }

    private @org.jspecify.annotations.Nullable Node value(String key) {
        asked.add(key);
        return values.get(key);
    }

    private Span headSpan() {
        Span whole = document.span(node);
        return new Span(whole.start(), whole.start());
    }

    static boolean isEmpty(Node node) {
        return node instanceof ScalarNode scalar
                && (scalar.getTag().equals(Tag.NULL)
                        || scalar.getValue().isEmpty() && scalar.getScalarStyle() == ScalarStyle.PLAIN);
    }

    private void wrongKind(@org.jspecify.annotations.Nullable Node at, String sentence) {
        document.add(at == null ? headSpan() : document.span(at), ProblemCode.VALUE_WRONG_KIND, sentence, "");
    }
}
