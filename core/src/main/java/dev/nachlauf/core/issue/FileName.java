package dev.nachlauf.core.issue;

import dev.nachlauf.core.template.Escape;
import dev.nachlauf.core.template.TextTemplate;
import java.util.Map;

/**
 * The name of a file that is issued.
 *
 * @param text as the job gives it; <code>${run}</code> and <code>${part}</code> have a meaning
 * @param parted whether there may be several, so that each needs a name of its own
 */
record FileName(String text, boolean parted) {
    /** The name of a part; without a place for its number it is put before the ending. */
    String of(Map<String, String> facts, int part) {
        TextTemplate template = TextTemplate.of(text);
        String name = template.filled(
                place -> place.equals("part") ? String.valueOf(part) : facts.getOrDefault(place, ""), Escape.NONE);
        if (!parted || template.names().contains("part")) {
            return name;
        }
        int dot = name.lastIndexOf('.');
        return dot <= 0 ? name + "-" + part : name.substring(0, dot) + "-" + part + name.substring(dot);
    }
}
