package dev.nachlauf.core.job;

import dev.nachlauf.core.document.Document;
import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.job.JobDefinition.Action;
import dev.nachlauf.core.job.JobDefinition.Assignment;
import dev.nachlauf.core.job.JobDefinition.FieldDeclaration;
import dev.nachlauf.core.job.JobDefinition.Format;
import dev.nachlauf.core.job.JobDefinition.From;
import dev.nachlauf.core.job.JobDefinition.Limit;
import dev.nachlauf.core.job.JobDefinition.Limits;
import dev.nachlauf.core.job.JobDefinition.Mapping;
import dev.nachlauf.core.job.JobDefinition.Parameter;
import dev.nachlauf.core.job.JobDefinition.Read;
import dev.nachlauf.core.job.JobDefinition.Step;
import dev.nachlauf.core.job.JobDefinition.Trailer;
import dev.nachlauf.core.job.JobDefinition.Write;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Job file to definition. */
public final class JobFile {
    private static final Pattern JOB_NAME = Pattern.compile("[a-z0-9][a-z0-9-]{0,63}");
    private static final Pattern STEP_NAME = Pattern.compile("[a-z][a-z0-9_]{0,62}");
    private static final Pattern PERCENT = Pattern.compile("(\\d{1,3}(?:\\.\\d{1,3})?)\\s*%");
    private static final Pattern PLACEHOLDER = Pattern.compile("\\$\\{([^}]*)}");
    private static final String NOTHING_TO_SAY = "";

    private final Section root;
    private final List<Problem> problems;

    private JobFile(Section root, List<Problem> problems) {
        this.root = root;
        this.problems = problems;
    }

    /** The definition; empty when there were problems, all of which are added to {@code problems}. */
    public static Optional<JobDefinition> read(SourceText source, List<Problem> problems) {
        List<Problem> found = new ArrayList<>();
        Optional<JobDefinition> definition =
                Document.parse(source, found).flatMap(root -> new JobFile(root, found).definition());
        problems.addAll(found);
        return found.isEmpty() ? definition : Optional.empty();
    }

    private Optional<JobDefinition> definition() {
        version(root);
        String name = name(root, "job", JOB_NAME, "small letters, digits and hyphens");
        String title = root.text("title").orElse(name);
        String notes = root.text("notes").orElse("");
        List<Parameter> parameters =
                root.section("parameters").map(this::parameters).orElse(List.of());
        Optional<Read> read = root.requiredSection("read").map(section -> read(section, parameters));
        List<Step> steps = new ArrayList<>();
        for (Section step : root.sections("steps")) {
            step(step).ifPresent(steps::add);
        }
        root.require("write");
        List<Section> writes = root.sections("write");
        if (writes.size() > 1) {
            root.problem(
                    "write",
                    ProblemCode.VALUE_WRONG_KIND,
                    "A job writes to one place so far.",
                    "Make a job of each write.");
        }
        Optional<Write> write = writes.isEmpty() ? Optional.empty() : Optional.of(write(writes.getFirst(), parameters));
        Limits limits = root.section("limits").map(this::limits).orElse(new Limits(Optional.empty()));
        root.done();
        return read.isEmpty() || write.isEmpty()
                ? Optional.empty()
                : Optional.of(
                        new JobDefinition(name, title, notes, parameters, read.get(), steps, write.get(), limits));
    }

    static void version(Section root) {
        root.require("nachlauf");
        root.text("nachlauf")
                .filter(version -> !version.equals("1"))
                .ifPresent(version -> root.problem(
                        "nachlauf",
                        ProblemCode.FORMAT_UNKNOWN,
                        "Version " + version + " of this format is not known.",
                        "Write nachlauf: 1."));
    }

    static String name(Section section, String key, Pattern allowed, String made) {
        String name = section.requiredText(key).orElse("");
        if (!name.isEmpty() && !allowed.matcher(name).matches()) {
            section.problem(key, ProblemCode.NAME_MALFORMED, "The name " + name + " is not made of " + made + ".", "");
        }
        return name;
    }

    private List<Parameter> parameters(Section section) {
        List<Parameter> parameters = new ArrayList<>();
        for (String name : section.keys()) {
            if (!STEP_NAME.matcher(name).matches()) {
                problems.add(Problem.at(
                        section.placeOf(name),
                        ProblemCode.NAME_MALFORMED,
                        "The name " + name + " is not made of small letters, digits and _.",
                        NOTHING_TO_SAY));
            }
            section.section(name).ifPresent(parameter -> {
                Kind kind = kind(parameter).orElse(Kind.TEXT);
                Object value = parameter
                        .text("default")
                        .map(text -> value(parameter, kind, text))
                        .orElse(null);
                parameter.done();
                parameters.add(new Parameter(new Placed<>(name, section.placeOf(name)), kind, value));
            });
        }
        section.done();
        return parameters;
    }

    private @Nullable Object value(Section section, Kind kind, String text) {
        try {
            return TextParser.of(kind, null, null).parse(text);
        } catch (ValueProblem problem) {
            section.problem(
                    "default", ProblemCode.VALUE_WRONG_KIND, problem.sentence(), "Dates are written as 2026-05-01.");
            return null;
        }
    }

    private Optional<Kind> kind(Section section) {
        Optional<String> word = section.requiredText("is");
        Optional<Kind> kind = word.flatMap(Kind::of);
        if (word.isPresent() && kind.isEmpty()) {
            section.problem(
                    "is",
                    ProblemCode.VALUE_WRONG_KIND,
                    "There is no kind " + word.get() + ".",
                    NearestNames.suggestion(
                            word.get(), Kind.words(), "Kinds: " + String.join(", ", Kind.words()) + "."));
        }
        return kind;
    }

    private Read read(Section section, List<Parameter> parameters) {
        Placed<String> connection = placed(section, "connection", parameters);
        From from = from(section, parameters);
        Format format = section.section("format").map(this::format).orElse(new Format(Optional.empty(), Map.of()));
        List<FieldDeclaration> fields =
                section.section("fields").map(this::fields).orElse(List.of());
        boolean again =
                oneOf(section, "take", "once", List.of("once", "always")).equals("always");
        Optional<Trailer> trailer = Optional.empty();
        if (section.has("trailer")) {
            Section line = section.section("trailer").orElse(section);
            Placed<String> mark = new Placed<>(line.requiredText("mark").orElse(""), line.place());
            trailer = Optional.of(trailer(line));
            Map<String, Placed<String>> options = new LinkedHashMap<>(format.options());
            options.put("trailer", mark);
            format = new Format(format.as(), options);
        }
        section.done();
        return new Read(connection, from, format, fields, again, trailer);
    }

    private From from(Section section, List<Parameter> parameters) {
        if (section.has("records")) {
            return new From.Records(placed(section, "records", parameters));
        }
        if (section.has("query")) {
            return new From.Query(
                    new Placed<>(section.requiredText("query").orElse(""), section.placeOfValue("query")));
        }
        return new From.File(placed(section, "file", parameters));
    }

    private static String oneOf(Section section, String key, String otherwise, List<String> words) {
        String word = section.text(key).orElse(otherwise);
        if (!words.contains(word)) {
            section.problem(
                    key,
                    ProblemCode.VALUE_WRONG_KIND,
                    key + " is " + String.join(" or ", words) + ", but " + word + " was found.",
                    NOTHING_TO_SAY);
        }
        return word;
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

    private Placed<String> placed(Section section, String key, List<Parameter> parameters) {
        String text = section.requiredText(key).orElse("");
        List<String> known =
                parameters.stream().map(parameter -> parameter.name().value()).toList();
        Matcher matcher = PLACEHOLDER.matcher(text);
        while (matcher.find()) {
            if (!known.contains(matcher.group(1))) {
                section.problem(
                        key,
                        ProblemCode.PARAMETER_UNKNOWN,
                        "The job has no parameter " + matcher.group(1) + ".",
                        NearestNames.suggestion(matcher.group(1), known, "Declare it under parameters."));
            }
        }
        return new Placed<>(text, section.placeOfValue(key));
    }

    private Format format(Section section) {
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

    private List<FieldDeclaration> fields(Section section) {
        List<FieldDeclaration> fields = new ArrayList<>();
        for (String name : section.keys()) {
            section.section(name)
                    .ifPresent(field -> fields.add(field(new Placed<>(name, section.placeOf(name)), field)));
        }
        section.done();
        return fields;
    }

    private FieldDeclaration field(Placed<String> name, Section field) {
        Kind kind = kind(field).orElse(Kind.TEXT);
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
        if (pattern != null && !isPattern(kind, pattern)) {
            field.problem(
                    "pattern",
                    ProblemCode.VALUE_WRONG_KIND,
                    "'" + pattern + "' is no pattern for a " + kind.word() + ".",
                    "A pattern is like dd.MM.yyyy or HH:mm.");
            pattern = null;
        }
        field.done();
        return new FieldDeclaration(name, kind, pattern, locale);
    }

    private static boolean isPattern(Kind kind, String pattern) {
        if (kind != Kind.DATE && kind != Kind.TIME && kind != Kind.TIMESTAMP) {
            return false;
        }
        try {
            TextParser.of(kind, pattern, null);
            return true;
        } catch (IllegalArgumentException e) {
            return false;
        }
    }

    private Optional<Step> step(Section section) {
        Optional<Step> step = Optional.empty();
        if (section.has("where")) {
            step = section.formula("where").map(Step.Where::new);
        } else if (section.has("set")) {
            step = section.section("set").map(this::set);
        } else if (section.has("rule")) {
            step = section.formula("rule")
                    .map(formula -> new Step.Rule(
                            formula, section.text("message").orElse("The rule " + formula.text() + " does not hold")));
        } else {
            List<String> keys = section.keys();
            String first = keys.isEmpty() ? "" : keys.getFirst();
            problems.add(Problem.at(
                    keys.isEmpty() ? section.place() : section.placeOf(first),
                    ProblemCode.KEY_UNKNOWN,
                    "There is no step " + first + ".",
                    NearestNames.suggestion(first, List.of("where", "set", "rule"), "Steps: where, set, rule.")));
            return step;
        }
        section.done();
        return step;
    }

    private Step set(Section section) {
        List<Assignment> assignments = new ArrayList<>();
        for (String field : section.keys()) {
            section.formula(field)
                    .ifPresent(formula ->
                            assignments.add(new Assignment(new Placed<>(field, section.placeOf(field)), formula)));
        }
        section.done();
        return new Step.Set(assignments);
    }

    private Write write(Section section, List<Parameter> parameters) {
        String name = section.has("name") ? name(section, "name", STEP_NAME, "small letters, digits and _") : "";
        Placed<String> connection = placed(section, "connection", parameters);
        Placed<String> records = placed(section, "records", parameters);
        section.requiredText("action")
                .filter(action -> !action.equals("upsert"))
                .ifPresent(action -> section.problem(
                        "action",
                        ProblemCode.VALUE_WRONG_KIND,
                        "There is no action " + action + " so far.",
                        "The action is upsert."));
        section.require("key");
        List<Placed<String>> key = new ArrayList<>();
        for (String field : section.texts("key")) {
            key.add(new Placed<>(field, section.placeOfItem("key", key.size())));
        }
        List<Mapping> map = section.requiredSection("map").map(this::map).orElse(List.of());
        section.done();
        return new Write(name.isEmpty() ? records.value() : name, connection, records, Action.UPSERT, key, map);
    }

    private List<Mapping> map(Section section) {
        List<Mapping> map = new ArrayList<>();
        for (String field : section.keys()) {
            section.formula(field)
                    .ifPresent(formula -> map.add(new Mapping(new Placed<>(field, section.placeOf(field)), formula)));
        }
        section.done();
        return map;
    }

    private Limits limits(Section section) {
        Optional<Limit> rejected = section.text("rejected").flatMap(text -> {
            Matcher percent = PERCENT.matcher(text);
            if (percent.matches()) {
                return Optional.of(new Limit.Percent(Double.parseDouble(percent.group(1))));
            }
            if (text.matches("\\d{1,12}")) {
                return Optional.of(new Limit.Rows(Long.parseLong(text)));
            }
            section.problem(
                    "rejected",
                    ProblemCode.VALUE_WRONG_KIND,
                    "A limit is a number of rows or a share such as 5%.",
                    NOTHING_TO_SAY);
            return Optional.<Limit>empty();
        });
        section.done();
        return new Limits(rejected);
    }
}
