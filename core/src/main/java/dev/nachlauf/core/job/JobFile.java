package dev.nachlauf.core.job;

import dev.nachlauf.core.document.Document;
import dev.nachlauf.core.document.DocumentKind;
import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.job.Guards.Guard;
import dev.nachlauf.core.job.JobDefinition.Example;
import dev.nachlauf.core.job.JobDefinition.Parameter;
import dev.nachlauf.core.job.JobDefinition.Read;
import dev.nachlauf.core.job.JobDefinition.Write;
import dev.nachlauf.core.job.Limits.Limit;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Job file to definition. */
public final class JobFile {
    private static final Pattern JOB_NAME = Pattern.compile("[a-z0-9][a-z0-9-]{0,63}");
    private static final Pattern PERCENT = Pattern.compile("(\\d{1,3}(?:\\.\\d{1,3})?)\\s*%");
    private static final String NOTHING_TO_SAY = "";

    private final Section root;
    private final SharedPieces pieces;
    private final List<Problem> problems;

    private JobFile(Section root, SharedPieces pieces, List<Problem> problems) {
        this.root = root;
        this.pieces = pieces;
        this.problems = problems;
    }

    /** The definition; empty when there were problems, all of which are added to {@code problems}. */
    public static Optional<JobDefinition> read(SourceText source, List<Problem> problems) {
        return read(source, names -> SharedPieces.NONE, problems);
    }

    /**
     * The definition of a job that may include shared pieces; empty when there were problems.
     *
     * @param shared gives the pieces of the named documents, and says what is wrong with them
     */
    public static Optional<JobDefinition> read(
            SourceText source, Function<List<Placed<String>>, SharedPieces> shared, List<Problem> problems) {
        List<Problem> found = new ArrayList<>();
        Optional<JobDefinition> definition = Document.parse(source, found).flatMap(root -> {
            SharedPieces pieces = shared.apply(included(root, new ArrayList<>()));
            return new JobFile(root, pieces, found).definition();
        });
        problems.addAll(found);
        return found.isEmpty() ? definition : Optional.empty();
    }

    /** The documents of pieces that a job includes, also where the job has errors; none where it can't be read. */
    public static List<String> included(SourceText source) {
        return Document.parse(source, new ArrayList<>()).stream()
                .flatMap(root -> included(root, new ArrayList<>()).stream())
                .map(Placed::value)
                .toList();
    }

    private static List<Placed<String>> included(Section root, List<Problem> problems) {
        return root.has("pieces") ? new Words(List.of(), problems).names(root, "pieces") : List.of();
    }

    private Optional<JobDefinition> definition() {
        if (!DocumentKind.JOB.heads(root)) {
            return Optional.empty();
        }
        String name = name(root, "job", JOB_NAME, "small letters, digits and hyphens");
        String title = root.text("title").orElse(name);
        String notes = root.text("notes").orElse("");
        List<Placed<String>> included = included(root, problems);
        List<Parameter> parameters =
                root.section("parameters").map(this::parameters).orElse(List.of());
        Words words = new Words(parameters, problems);
        Optional<Read> read = root.requiredSection("read").map(new ReadSection(words)::read);
        List<Step> steps = steps(words);
        root.require("write");
        List<Write> writes = writes(words);
        Limits limits = root.section("limits").map(this::limits).orElse(Limits.NONE);
        Guards guards = new Guards(guard("near-duplicates"), guard("unlike-last-time"));
        ControlTotals totals = totals(words);
        Optional<PutBack> putBack = root.section("results").map(new ResultsSection(words, read)::putBack);
        List<Tell> tells = tells(words);
        List<Example> examples = examples(words);
        root.done();
        return read.isEmpty() || writes.isEmpty()
                ? Optional.empty()
                : Optional.of(new JobDefinition(
                        name,
                        title,
                        notes,
                        included,
                        parameters,
                        read.get(),
                        steps,
                        writes,
                        limits,
                        guards,
                        totals,
                        putBack,
                        tells,
                        examples));
    }

    private ControlTotals totals(Words words) {
        return root.section("totals").map(new TotalsSection(words)::read).orElse(ControlTotals.NONE);
    }

    private List<Tell> tells(Words words) {
        return root.sections("tell").stream().map(new TellSection(words)::tell).toList();
    }

    private List<Write> writes(Words words) {
        List<Write> writes = root.sections("write").stream()
                .flatMap(section -> new WriteSection(words).writes(section).stream())
                .toList();
        requireOneMain(writes);
        return writes;
    }

    private List<Example> examples(Words words) {
        List<Example> examples = new ArrayList<>();
        for (Section example : root.has("examples") ? root.sections("examples") : List.<Section>of()) {
            new ExampleSection(words).example(example, examples.size() + 1).ifPresent(examples::add);
        }
        return examples;
    }

    /** The steps, with those of shared pieces in their place. */
    private List<Step> steps(Words words) {
        List<Step> steps = new ArrayList<>();
        for (Section step : root.sections("steps")) {
            if (step.has("include")) {
                String name = step.requiredText("include").orElse("");
                List<Step> shared = pieces.steps().get(name);
                if (shared == null) {
                    step.problem(
                            "include",
                            ProblemCode.PIECE_UNKNOWN,
                            "No piece that the job includes has steps named " + name + ".",
                            NearestNames.suggestion(name, pieces.steps().keySet(), "Name the document under pieces."));
                } else {
                    steps.addAll(shared);
                }
                step.done();
            } else {
                new StepSection(words).step(step).ifPresent(steps::add);
            }
        }
        return steps;
    }

    private void requireOneMain(List<Write> writes) {
        List<String> names = new ArrayList<>();
        for (Write write : writes) {
            if (names.contains(write.name())) {
                problems.add(Problem.at(
                        write.records().place(),
                        ProblemCode.NAME_TAKEN,
                        "Another write is named " + write.name() + " too.",
                        "Give each a name of its own."));
            }
            names.add(write.name());
        }
        if (writes.stream().filter(Write::main).count() > 1) {
            root.problem("write", ProblemCode.VALUE_WRONG_KIND, "Only one write can be the main one.", NOTHING_TO_SAY);
        }
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
        Words words = new Words(List.of(), problems);
        for (String name : section.keys()) {
            words.requireName(section, name);
            section.section(name)
                    .map(one -> parameter(new Placed<>(name, section.placeOf(name)), one))
                    .ifPresent(parameters::add);
        }
        section.done();
        return parameters;
    }

    private Parameter parameter(Placed<String> name, Section section) {
        Kind kind = new Words(List.of(), problems).kind(section).orElse(Kind.TEXT);
        Object value = section.text("default")
                .map(text -> value(section, "default", kind, text))
                .orElse(null);
        List<Object> allowed = new ArrayList<>();
        for (String text : section.has("allowed") ? section.texts("allowed") : List.<String>of()) {
            Object one = value(section, "allowed", kind, text);
            if (one != null) {
                allowed.add(one);
            }
        }
        boolean required = !section.text("required").orElse("true").equals("false");
        boolean list = Words.flag(section, "list");
        String ask = section.text("ask").orElse("");
        if (value != null
                && !allowed.isEmpty()
                && allowed.stream().noneMatch(one -> dev.nachlauf.core.value.Values.same(one, value))) {
            section.problem(
                    "default",
                    ProblemCode.VALUE_NOT_ALLOWED,
                    "The default is none of the allowed values.",
                    NOTHING_TO_SAY);
        }
        section.done();
        return new Parameter(name, kind, value, allowed, required, list, ask);
    }

    private @Nullable Object value(Section section, String key, Kind kind, String text) {
        try {
            return TextParser.of(kind, null, null).parse(text);
        } catch (ValueProblem problem) {
            section.problem(key, ProblemCode.VALUE_WRONG_KIND, problem.sentence(), "Dates are written as 2026-05-01.");
            return null;
        }
    }

    private Guard guard(String key) {
        return Guard.valueOf(Words.oneOf(root, key, "warn", "hold", "allow").toUpperCase(Locale.ROOT));
    }

    private Limits limits(Section section) {
        Limits limits = new Limits(limit(section, "rejected"), limit(section, "updated"), limit(section, "deleted"));
        section.done();
        return limits;
    }

    private static Optional<Limit> limit(Section section, String key) {
        return section.text(key).flatMap(text -> {
            Matcher percent = PERCENT.matcher(text);
            if (percent.matches()) {
                return Optional.of(new Limit.Percent(Double.parseDouble(percent.group(1))));
            }
            if (text.matches("\\d{1,12}")) {
                return Optional.of(new Limit.Rows(Long.parseLong(text)));
            }
            section.problem(
                    key,
                    ProblemCode.VALUE_WRONG_KIND,
                    "A limit is a number or a share of the rows, such as 5%.",
                    NOTHING_TO_SAY);
            return Optional.empty();
        });
    }
}
