package dev.nachlauf.core.job;

import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.job.JobDefinition.ChangedSince;
import dev.nachlauf.core.job.JobDefinition.FieldDeclaration;
import dev.nachlauf.core.job.JobDefinition.Format;
import dev.nachlauf.core.job.JobDefinition.From;
import dev.nachlauf.core.job.JobDefinition.KeyList;
import dev.nachlauf.core.job.JobDefinition.Read;
import dev.nachlauf.core.job.JobDefinition.Trailer;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.TruthText;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** The section {@code read} of a job. */
final class ReadSection {
    private static final String NOTHING_TO_SAY = "";

    private final Words words;

    private static final Pattern DURATION = Pattern.compile("([1-9]\\d{0,5})([smhd])");

    ReadSection(Words words) {
        this.words = words;
    }

    Read read(Section section) {
        From from = from(section);
        Placed<String> connection = from instanceof From.Upload
                ? new Placed<>("", section.placeOfValue("upload"))
                : words.placed(section, "connection");
        Format format = format(section);
        List<FieldDeclaration> fields = fields(section);
        boolean again =
                Words.oneOf(section, "take", "once", List.of("once", "always")).equals("always");
        Optional<Trailer> trailer = Optional.empty();
        if (section.has("trailer")) {
            Section line = section.section("trailer").orElse(section);
            Placed<String> mark = new Placed<>(line.requiredText("mark").orElse(""), line.place());
            trailer = Optional.of(trailer(line));
            Map<String, Placed<String>> options = new LinkedHashMap<>(format.options());
            options.put("trailer", mark);
            format = new Format(format.as(), options);
        }
        Optional<ChangedSince> changedSince = changedSince(section);
        Optional<KeyList> keys = section.section("keys").map(this::keys);
        if (!(from instanceof From.Records)) {
            requireRecords(section, "changed-since", changedSince.isPresent());
            requireRecords(section, "keys", keys.isPresent());
        }
        section.done();
        return new Read(connection, from, format, fields, again, trailer, changedSince, keys);
    }

    /** The field alone, or with how far before the last value reading begins again. */
    private static Optional<ChangedSince> changedSince(Section section) {
        if (!section.isSection("changed-since")) {
            return section.text("changed-since")
                    .map(field -> new ChangedSince(
                            new Placed<>(field, section.placeOfValue("changed-since")), Duration.ZERO));
        }
        return section.section("changed-since").map(inner -> {
            Placed<String> field = new Placed<>(inner.requiredText("field").orElse(""), inner.placeOfValue("field"));
            Duration overlap =
                    inner.text("overlap").flatMap(text -> duration(inner, text)).orElse(Duration.ZERO);
            inner.done();
            return new ChangedSince(field, overlap);
        });
    }

    private static Optional<Duration> duration(Section section, String text) {
        Matcher parts = DURATION.matcher(text);
        if (!parts.matches()) {
            section.problem(
                    "overlap",
                    ProblemCode.VALUE_WRONG_KIND,
                    "The overlap '" + text + "' is no duration.",
                    "Write a number with s, m, h or d, such as 10m.");
            return Optional.empty();
        }
        long number = Long.parseLong(parts.group(1));
        return Optional.of(
                switch (parts.group(2)) {
                    case "s" -> Duration.ofSeconds(number);
                    case "m" -> Duration.ofMinutes(number);
                    case "h" -> Duration.ofHours(number);
                    default -> Duration.ofDays(number);
                });
    }

    private From from(Section section) {
        if (section.has("upload")) {
            return new From.Upload(words.placed(section, "upload"));
        }
        if (section.has("records")) {
            return new From.Records(words.placed(section, "records"));
        }
        if (section.has("query")) {
            return new From.Query(
                    new Placed<>(section.requiredText("query").orElse(""), section.placeOfValue("query")));
        }
        return new From.File(words.placed(section, "file"));
    }

    private static void requireRecords(Section section, String key, boolean there) {
        if (there) {
            section.problem(
                    key,
                    ProblemCode.VALUE_WRONG_KIND,
                    key + " stands beside records; files and queries have no such choice.",
                    "A query can name a parameter instead.");
        }
    }

    private KeyList keys(Section section) {
        Placed<String> field = new Placed<>(section.requiredText("field").orElse(""), section.placeOfValue("field"));
        Placed<String> parameter =
                new Placed<>(section.requiredText("parameter").orElse(""), section.placeOfValue("parameter"));
        words.requireParameter(section, "parameter", parameter.value());
        section.done();
        return new KeyList(field, parameter);
    }

    private Trailer trailer(Section line) {
        OptionalInt count = position(line, "count");
        Map<String, Integer> totals = new LinkedHashMap<>();
        line.section("totals").ifPresent(section -> {
            for (String field : section.keys()) {
                position(section, field).ifPresent(position -> totals.put(field, position));
            }
            section.done();
        });
        line.done();
        return new Trailer(count, totals);
    }

    private static OptionalInt position(Section section, String key) {
        Optional<String> text = section.text(key);
        if (text.isEmpty()) {
            return OptionalInt.empty();
        }
        if (text.get().matches("[1-9]\\d{0,3}")) {
            return OptionalInt.of(Integer.parseInt(text.get()));
        }
        section.problem(
                key,
                ProblemCode.VALUE_WRONG_KIND,
                key + " is a position in the closing line, counted from 1, but " + text.get() + " was found.",
                NOTHING_TO_SAY);
        return OptionalInt.empty();
    }

    /** How the files of a section are taken apart. */
    Format format(Section section) {
        return section.section("format").map(this::options).orElse(new Format(Optional.empty(), Map.of()));
    }

    private Format options(Section section) {
        Optional<Placed<String>> as = section.text("as").map(word -> new Placed<>(word, section.placeOfValue("as")));
        Map<String, Placed<String>> options = new LinkedHashMap<>();
        for (String key : section.keys()) {
            if (!key.equals("as")) {
                option(section, key).ifPresent(text -> options.put(key, new Placed<>(text, section.placeOf(key))));
            }
        }
        section.done();
        return new Format(as, options);
    }

    /** A word, or a list or map of words, which is one option in flow style: {@code a, b} or {@code a: 1, b: 2}. */
    private static Optional<String> option(Section section, String key) {
        if (section.isSection(key)) {
            return section.section(key).map(nested -> {
                List<String> parts = new ArrayList<>();
                for (String name : nested.keys()) {
                    nested.text(name).ifPresent(text -> parts.add(name + ": " + text));
                }
                nested.done();
                return String.join(", ", parts);
            });
        }
        return section.isList(key) ? Optional.of(String.join(", ", section.texts(key))) : section.text(key);
    }

    /** The fields that a section declares. */
    List<FieldDeclaration> fields(Section section) {
        return section.section("fields").map(this::declared).orElse(List.of());
    }

    private List<FieldDeclaration> declared(Section section) {
        List<FieldDeclaration> fields = new ArrayList<>();
        for (String name : section.keys()) {
            section.section(name)
                    .ifPresent(field -> fields.add(field(new Placed<>(name, section.placeOf(name)), field)));
        }
        section.done();
        return fields;
    }

    private FieldDeclaration field(Placed<String> name, Section field) {
        Kind kind = words.kind(field).orElse(Kind.TEXT);
        String pattern = field.text("pattern").orElse(null);
        String locale = field.text("locale").orElse(null);
        if (locale != null && (!kind.isNumber() || !TextParser.LOCALES.contains(locale))) {
            field.problem(
                    "locale",
                    ProblemCode.VALUE_WRONG_KIND,
                    "A locale is one of " + TextParser.LOCALES.stream().sorted().toList() + " and stands at numbers.",
                    NOTHING_TO_SAY);
            locale = null;
        }
        if (pattern != null && (kind == Kind.BOOLEAN || !isPattern(kind, pattern))) {
            field.problem(
                    "pattern",
                    ProblemCode.VALUE_WRONG_KIND,
                    "'" + pattern + "' is no pattern for a " + kind.word() + ".",
                    "A pattern is like dd.MM.yyyy or HH:mm.");
            pattern = null;
        }
        String truths = truths(field, kind);
        field.done();
        return new FieldDeclaration(name, kind, truths == null ? pattern : truths, locale);
    }

    /** The words for true and false, as a pattern; null where none are named. */
    private static @Nullable String truths(Section field, Kind kind) {
        List<String> yes = words(field, "true");
        List<String> no = words(field, "false");
        if (!field.has("true") && !field.has("false")) {
            return null;
        }
        String key = field.has("true") ? "true" : "false";
        boolean both = field.has("true") && field.has("false");
        boolean sound = both
                && kind == Kind.BOOLEAN
                && Stream.concat(yes.stream(), no.stream()).allMatch(TruthText::isWord);
        String pattern = TruthText.pattern(yes, no);
        if (sound && isPattern(kind, pattern)) {
            return pattern;
        }
        field.problem(
                key,
                ProblemCode.VALUE_WRONG_KIND,
                "The words for true and false stand together at a boolean; none stands in both lists or holds a comma or slash.",
                "Such as: is: boolean, true: [yes, x], false: [no, ''].");
        return null;
    }

    private static List<String> words(Section field, String key) {
        return field.isList(key) ? field.texts(key) : field.text(key).stream().toList();
    }

    private static boolean isPattern(Kind kind, String pattern) {
        if (kind != Kind.DATE && kind != Kind.TIME && kind != Kind.TIMESTAMP && kind != Kind.BOOLEAN) {
            return false;
        }
        try {
            TextParser.of(kind, pattern, null);
            return true;
        } catch (IllegalArgumentException e) {
            return false;
        }
    }
}
