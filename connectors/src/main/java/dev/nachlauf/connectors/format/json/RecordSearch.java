package dev.nachlauf.connectors.format.json;

import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.connectors.format.nested.RecordPath;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceBytes;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.ObjectReadContext;

/** Finds the lists of objects in the first part of a document: the outermost one holds the records, most likely. */
final class RecordSearch {
    private RecordSearch() {}

    static Detected find(SourceBytes bytes, FormatOptions options) {
        Set<String> lists = new LinkedHashSet<>();
        try {
            DecodedText text = DecodedText.open(bytes, options);
            text.reader().close();
            try (JsonParser parser = Json.FACTORY.createParser(ObjectReadContext.empty(), text.start())) {
                search(parser, lists);
            } catch (JacksonException e) {
                // the sample ends in the middle of the document, or the document is broken: reading it will say so
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        if (lists.isEmpty() || lists.contains("")) {
            return new Detected(
                    RecordPath.RECORD.name(),
                    "",
                    lists.isEmpty() ? 0.5 : 0.95,
                    (lists.isEmpty()
                                    ? "the document holds no list of objects and is one record"
                                    : "the document is a list")
                            + others(lists, ""));
        }
        String first = lists.stream()
                .min(Comparator.comparingInt(path -> path.split("\\.").length))
                .orElseThrow();
        return new Detected(
                RecordPath.RECORD.name(),
                first,
                lists.size() == 1 ? 0.95 : 0.7,
                "it is the outermost list of objects" + others(lists, first));
    }

    private static String others(Set<String> lists, String chosen) {
        List<String> deeper =
                lists.stream().filter(path -> !path.equals(chosen)).toList();
        return deeper.isEmpty() ? "" : "; others: " + String.join(", ", deeper);
    }

    private static void search(JsonParser parser, Set<String> lists) {
        List<String> path = new ArrayList<>();
        for (JsonToken token = parser.nextToken(); token != null; token = parser.nextToken()) {
            switch (token) {
                case START_OBJECT -> {
                    String name = parser.streamReadContext().getParent().currentName();
                    boolean inList = parser.streamReadContext().getParent().inArray();
                    path.add(!inList && name != null ? name : "");
                    if (inList) {
                        lists.add(named(path));
                    }
                }
                case START_ARRAY -> {
                    String name = parser.streamReadContext().getParent().currentName();
                    path.add(name == null ? "" : name);
                }
                case END_OBJECT, END_ARRAY -> path.removeLast();
                default -> {
                    // scalars name nothing
                }
            }
        }
    }

    private static String named(List<String> path) {
        return String.join(".", path.stream().filter(name -> !name.isEmpty()).toList());
    }
}
