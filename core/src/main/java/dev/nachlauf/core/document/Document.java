package dev.nachlauf.core.document;

import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.text.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.api.lowlevel.Compose;
import org.snakeyaml.engine.v2.exceptions.MarkedYamlEngineException;
import org.snakeyaml.engine.v2.exceptions.YamlEngineException;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;

/** One YAML document: its text, the findings about it, and its root. */
public final class Document {
    /** The longest document, in UTF-16 units, unless it is one of many alike entries. */
    public static final int LONGEST = 1_000_000;

    private static final int DEEPEST = 50;

    private final SourceText source;
    private final List<Problem> problems;
    private final Offsets offsets;

    private Document(SourceText source, List<Problem> problems) {
        this.source = source;
        this.problems = problems;
        this.offsets = new Offsets(source.text());
    }

    /** The root map; empty when the text is no YAML map, which is then among the problems. */
    public static Optional<Section> parse(SourceText source, List<Problem> problems) {
        return parse(source, LONGEST, problems);
    }

    /**
     * The root map of a document that may be longer than others.
     *
     * @param longest in UTF-16 units
     */
    public static Optional<Section> parse(SourceText source, int longest, List<Problem> problems) {
        Document document = new Document(source, problems);
        if (source.text().length() > longest) {
            document.add(
                    new Span(0, 0),
                    ProblemCode.YAML_MALFORMED,
                    String.format(Locale.ROOT, "The document is longer than %,d characters.", longest),
                    "");
            return Optional.empty();
        }
        LoadSettings settings = LoadSettings.builder()
                .setLabel(source.name())
                .setMaxAliasesForCollections(0)
                .setCodePointLimit(longest)
                .setAllowRecursiveKeys(false)
                .build();
        try {
            Optional<Node> root = new Compose(settings).composeString(source.text());
            if (root.isPresent() && root.get() instanceof MappingNode map) {
                if (depth(map) > DEEPEST) {
                    document.add(new Span(0, 0), ProblemCode.YAML_MALFORMED, "The document is nested too deeply.", "");
                    return Optional.empty();
                }
                return Optional.of(new Section(document, map, ""));
            }
            document.add(
                    new Span(0, 0),
                    ProblemCode.YAML_MALFORMED,
                    "The document has no keys.",
                    "It starts with nachlauf: 1.");
        } catch (MarkedYamlEngineException e) {
            problems.add(YamlTraps.explain(source, e));
        } catch (YamlEngineException | StackOverflowError e) {
            document.add(new Span(0, 0), ProblemCode.YAML_MALFORMED, "The document can't be read as YAML.", "");
        }
        return Optional.empty();
    }

    /** All values of a document as YAML reads them, at any depth; none where it can't be read. */
    public static List<String> values(SourceText source) {
        List<String> values = new ArrayList<>();
        parse(source, new ArrayList<>()).ifPresent(root -> collect(root.node(), values));
        return values;
    }

    private static void collect(Node node, List<String> values) {
        switch (node) {
            case MappingNode map -> map.getValue().forEach(entry -> collect(entry.getValueNode(), values));
            case SequenceNode list -> list.getValue().forEach(item -> collect(item, values));
            case ScalarNode scalar -> values.add(scalar.getValue());
            default -> {
                // an alias is what it stands for
            }
        }
    }

    private static int depth(Node node) {
        return switch (node) {
            case MappingNode map ->
                1
                        + map.getValue().stream()
                                .mapToInt(entry -> depth(entry.getValueNode()))
                                .max()
                                .orElse(0);
            case SequenceNode list ->
                1 + list.getValue().stream().mapToInt(Document::depth).max().orElse(0);
            default -> 0;
        };
    }

    SourceText source() {
        return source;
    }

    void add(Problem problem) {
        problems.add(problem);
    }

    void add(Span span, ProblemCode code, String sentence, String remedy) {
        problems.add(Problem.at(place(span), code, sentence, remedy));
    }

    Place place(Span span) {
        return new Place.InText(source, span);
    }

    /** Where a node stands; YAML counts code points. */
    Span span(Node node) {
        int start = node.getStartMark().map(mark -> offsets.of(mark.getIndex())).orElse(0);
        int end = node.getEndMark().map(mark -> offsets.of(mark.getIndex())).orElse(start);
        String covered = source.slice(new Span(start, Math.max(start, end)));
        return new Span(start, start + covered.stripTrailing().length());
    }
}
