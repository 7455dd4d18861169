package dev.nachlauf.connectors.format.delimited;

import dev.nachlauf.connectors.format.heading.Heading;
import dev.nachlauf.connectors.format.heading.HeadingSearch;
import dev.nachlauf.connectors.format.heading.HeadingSearch.Line;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * How a delimited text is laid out: what the job says, and for the rest what its first lines tell.
 *
 * @param quote and {@code escape}, {@code comment}: {@link #NONE} where there is none
 * @param skip lines at the start that are none of the table
 * @param headerRow the line with the names, from 1; 0 where there is none
 * @param blanks whether lines of nothing but delimiters are rows
 * @param trailer the word that marks a closing line; empty where there is none
 */
record Layout(
        String delimiter,
        char quote,
        char escape,
        char comment,
        int skip,
        int headerRow,
        boolean pad,
        boolean blanks,
        String trailer,
        List<Detected> options) {
    /** No character at all. */
    static final char NONE = '\0';

    private static final List<String> DELIMITERS = List.of(";", ",", "\t", "|", ":", "~", "^");
    private static final int MOST_SKIPPED = 10_000;
    private static final int LONGEST_DELIMITER = 8;
    private static final int LOOKED_AT = 60;

    static Layout of(FormatOptions stated, String start) {
        char quote = mark(stated, DelimitedFormat.QUOTE, '"');
        char escape = mark(stated, DelimitedFormat.ESCAPE, NONE);
        char comment = mark(stated, DelimitedFormat.COMMENT, NONE);
        int skip = stated.integer(DelimitedFormat.SKIP_LINES, 0, 0, MOST_SKIPPED);
        boolean pad = stated.word(DelimitedFormat.RAGGED, "reject", List.of("reject", "pad"))
                .equals("pad");
        boolean blanks = stated.word(DelimitedFormat.BLANK_LINES, "leave-out", List.of("leave-out", "keep"))
                .equals("keep");
        String trailer = stated.text(DelimitedFormat.TRAILER).orElse("");
        Detected delimiter = stated.text(DelimitedFormat.DELIMITER)
                .map(text -> Detected.stated(DelimitedFormat.DELIMITER, delimiter(text)))
                .orElseGet(() -> detected(firstLines(start, skip, comment), quote));
        if (delimiter.value().equals(String.valueOf(quote))) {
            throw FormatOptions.malformed(DelimitedFormat.QUOTE, "The delimiter and the quote are the same character.");
        }
        Layout found = new Layout(delimiter.value(), quote, escape, comment, skip, 0, pad, blanks, trailer, List.of());
        Detected header = stated.text(Heading.HEADER_ROW).isPresent()
                ? Detected.stated(
                        Heading.HEADER_ROW, String.valueOf(stated.integer(Heading.HEADER_ROW, 1, 0, MOST_SKIPPED)))
                : found.header(start);
        return new Layout(
                found.delimiter,
                quote,
                escape,
                comment,
                skip,
                Integer.parseInt(header.value()),
                pad,
                blanks,
                trailer,
                found.options(stated, delimiter, header));
    }

    /** What is in force, for people; what is as usual and was not stated is left out, but for the quote. */
    private List<Detected> options(FormatOptions stated, Detected delimiter, Detected header) {
        List<Detected> options = new ArrayList<>();
        options.add(shown(delimiter));
        options.add(mark(stated, DelimitedFormat.QUOTE, quote, "\""));
        if (escape != NONE) {
            options.add(Detected.stated(DelimitedFormat.ESCAPE, String.valueOf(escape)));
        }
        if (comment != NONE) {
            options.add(Detected.stated(DelimitedFormat.COMMENT, String.valueOf(comment)));
        }
        if (skip > 0) {
            options.add(Detected.stated(DelimitedFormat.SKIP_LINES, String.valueOf(skip)));
        }
        options.add(header);
        if (pad) {
            options.add(Detected.stated(DelimitedFormat.RAGGED, "pad"));
        }
        if (blanks) {
            options.add(Detected.stated(DelimitedFormat.BLANK_LINES, "keep"));
        }
        if (!trailer.isEmpty()) {
            options.add(Detected.stated(DelimitedFormat.TRAILER, trailer));
        }
        return options;
    }

    private static Detected shown(Detected delimiter) {
        return delimiter.value().equals("\t")
                ? new Detected(delimiter.option(), "tab", delimiter.confidence(), delimiter.evidence())
                : delimiter;
    }

    private static Detected mark(FormatOptions stated, String option, char found, String usual) {
        String text = found == NONE ? "none" : String.valueOf(found);
        return stated.text(option).isPresent() || !text.equals(usual)
                ? Detected.stated(option, text)
                : Detected.usual(option, text);
    }

    private static char mark(FormatOptions stated, String option, char otherwise) {
        return stated.text(option).equals(Optional.of("none"))
                ? NONE
                : stated.character(option).orElse(otherwise);
    }

    private static String delimiter(String text) {
        if (text.equals("tab") || text.equals("\\t")) {
            return "\t";
        }
        if (text.isEmpty() || text.length() > LONGEST_DELIMITER || text.contains("\n") || text.contains("\r")) {
            throw FormatOptions.malformed(
                    DelimitedFormat.DELIMITER,
                    "delimiter is tab, or one to " + LONGEST_DELIMITER + " characters, but '" + text + "' was found.");
        }
        return text;
    }

    private static List<String> firstLines(String start, int skip, char comment) {
        return start.lines()
                .skip(skip)
                .filter(line -> comment == NONE || line.isEmpty() || line.charAt(0) != comment)
                .limit(LOOKED_AT)
                .toList();
    }

    /** The candidate that stands equally often in most of the lines; of several the one that stands most often. */
    private static Detected detected(List<String> lines, char quote) {
        String best = ";";
        double bestScore = 0;
        int bestCount = 0;
        int bestLines = 0;
        for (String candidate : DELIMITERS) {
            List<Integer> counts = lines.stream()
                    .filter(line -> !line.isBlank())
                    .map(line -> count(line, candidate.charAt(0), quote))
                    .toList();
            int usual = usual(counts);
            int agreeing = (int) counts.stream().filter(count -> count == usual).count();
            double score = usual == 0 ? 0 : (double) agreeing / counts.size() * Math.min(usual, 5) + agreeing * 1e-6;
            if (score > bestScore) {
                best = candidate;
                bestScore = score;
                bestCount = usual;
                bestLines = agreeing;
            }
        }
        long all = lines.stream().filter(line -> !line.isBlank()).count();
        if (bestCount == 0) {
            return new Detected(
                    DelimitedFormat.DELIMITER, best, 0.3, "no delimiter in the first lines: one field per row");
        }
        return new Detected(
                DelimitedFormat.DELIMITER,
                best,
                Math.round(0.5 * 100 + 49.0 * bestLines / all) / 100.0,
                "it stands " + bestCount + " times in " + bestLines + " of the first " + all + " lines");
    }

    private static int usual(List<Integer> counts) {
        return counts.stream()
                .filter(count -> count > 0)
                .collect(java.util.stream.Collectors.groupingBy(count -> count, java.util.stream.Collectors.counting()))
                .entrySet()
                .stream()
                .max(java.util.Map.Entry.<Integer, Long>comparingByValue()
                        .thenComparing(java.util.Map.Entry.comparingByKey()))
                .map(java.util.Map.Entry::getKey)
                .orElse(0);
    }

    /** How often a character stands outside of quotes. */
    static int count(String line, char wanted, char quote) {
        boolean quoted = false;
        int count = 0;
        for (int i = 0; i < line.length(); i++) {
            char c = line.charAt(i);
            quoted ^= c == quote;
            count += c == wanted && !quoted ? 1 : 0;
        }
        return count;
    }

    /** The line with the names, from the first rows; a last row that the sample cuts in two is left out. */
    private Detected header(String start) {
        List<Line> lines = new ArrayList<>();
        String whole = start.contains("\n") ? start.substring(0, start.lastIndexOf('\n')) : start;
        try (Records records = Records.ofCharacters(new Tail(new StringReader(whole)), this)) {
            for (Records.Fields row = records.next(); row != null && lines.size() < LOOKED_AT; row = records.next()) {
                lines.add(new Line((int) row.line(), row.cells()));
            }
        } catch (Records.Malformed e) {
            // the rows so far have to do
        }
        return HeadingSearch.find(lines);
    }
}
