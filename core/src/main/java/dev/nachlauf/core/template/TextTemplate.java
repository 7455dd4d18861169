package dev.nachlauf.core.template;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * A text with places for values: <code>${name}</code> is one, <code>$${</code> stands for a dollar and a brace.
 *
 * @param parts in order
 */
public record TextTemplate(List<Part> parts) {
    private static final Pattern PLACE = Pattern.compile("\\$\\$\\{|\\$\\{([^}]*)}");

    public TextTemplate {
        parts = List.copyOf(parts);
    }

    /** A part of a template. */
    public sealed interface Part {
        record Words(String text) implements Part {}

        record Value(String name) implements Part {}
    }

    /** A template as people write it. */
    public static TextTemplate of(String text) {
        List<Part> parts = new ArrayList<>();
        StringBuilder words = new StringBuilder();
        Matcher matcher = PLACE.matcher(text);
        int at = 0;
        while (matcher.find()) {
            words.append(text, at, matcher.start());
            if (matcher.group(1) == null) {
                words.append("${");
            } else {
                parts.add(new Part.Words(words.toString()));
                words.setLength(0);
                parts.add(new Part.Value(matcher.group(1).strip()));
            }
            at = matcher.end();
        }
        parts.add(new Part.Words(words.append(text, at, text.length()).toString()));
        return new TextTemplate(parts);
    }

    /**
     * A template grown from a text that was recorded once: wherever one of the values stands as a whole word, there is a
     * place for it. Where two could stand, the longer one does.
     *
     * @param values what stands in the text, by the name of its place
     */
    public static TextTemplate grown(String recorded, Map<String, String> values) {
        String anyValue = values.values().stream()
                .filter(value -> !value.isEmpty())
                .distinct()
                .sorted(Comparator.comparingInt(String::length).reversed().thenComparing(Comparator.naturalOrder()))
                .map(TextTemplate::whole)
                .collect(Collectors.joining("|"));
        if (anyValue.isEmpty()) {
            return new TextTemplate(List.of(new Part.Words(recorded)));
        }
        List<Part> parts = new ArrayList<>();
        Matcher matcher = Pattern.compile(anyValue).matcher(recorded);
        int at = 0;
        while (matcher.find()) {
            parts.add(new Part.Words(recorded.substring(at, matcher.start())));
            parts.add(new Part.Value(nameOf(matcher.group(), values)));
            at = matcher.end();
        }
        parts.add(new Part.Words(recorded.substring(at)));
        return new TextTemplate(parts);
    }

    private static String whole(String value) {
        boolean begins = Character.isLetterOrDigit(value.codePointAt(0));
        boolean ends = Character.isLetterOrDigit(value.codePointBefore(value.length()));
        return (begins ? "(?<![\\p{L}\\p{N}])" : "") + Pattern.quote(value) + (ends ? "(?![\\p{L}\\p{N}])" : "");
    }

    private static String nameOf(String value, Map<String, String> values) {
        return values.entrySet().stream()
                .filter(entry -> entry.getValue().equals(value))
                .findFirst()
                .map(Map.Entry::getKey)
                .orElseThrow();
    }

    /** The names of its places. */
    public Set<String> names() {
        return parts.stream()
                .filter(Part.Value.class::isInstance)
                .map(part -> ((Part.Value) part).name())
                .collect(Collectors.toSet());
    }

    /** The same, where each line of its words ends so. */
    public TextTemplate withLineEnds(String end) {
        return end.equals("\n")
                ? this
                : new TextTemplate(parts.stream()
                        .map(part -> part instanceof Part.Words words
                                ? new Part.Words(
                                        words.text().replace("\r\n", "\n").replace("\n", end))
                                : part)
                        .toList());
    }

    /** The text with values in their places; each is spelled, then never looked at again. */
    public String filled(Function<String, String> values, Escape escape) {
        StringBuilder text = new StringBuilder();
        for (Part part : parts) {
            switch (part) {
                case Part.Words words -> text.append(words.text());
                case Part.Value value -> text.append(escape.spell(values.apply(value.name())));
            }
        }
        return text.toString();
    }
}
