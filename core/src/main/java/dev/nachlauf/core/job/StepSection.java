package dev.nachlauf.core.job;

import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.job.JobDefinition.Assignment;
import dev.nachlauf.core.job.Step.Keep;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/** One entry of {@code steps}. The key that names the step comes first by custom, but may stand anywhere. */
final class StepSection {
    private final Words words;
    private final ReadSection source;
    private final Map<String, Function<Section, Optional<Step>>> kinds = new LinkedHashMap<>();

    StepSection(Words words) {
        this.words = words;
        this.source = new ReadSection(words);
        kinds.put("where", section -> section.formula("where").map(Step.Where::new));
        kinds.put(
                "set", section -> section.section("set").map(words::assignments).map(Step.Set::new));
        kinds.put("lookup", section -> Optional.of(lookup(section)));
        kinds.put("rule", this::rule);
        kinds.put("whole-load", this::wholeLoad);
        kinds.put("duplicates", section -> Optional.of(duplicates(section)));
        kinds.put("combine", section -> Optional.of(combine(section)));
        kinds.put("wide-to-long", section -> Optional.of(wideToLong(section)));
        kinds.put("long-to-wide", this::longToWide);
        kinds.put("group", section -> Optional.of(group(section)));
        kinds.put(
                "parents-first",
                section -> Optional.of(
                        new Step.ParentsFirst(words.names(section, "parents-first"), words.names(section, "parent"))));
    }

    /** The step; empty where it is malformed, which is among the problems. */
    Optional<Step> step(Section section) {
        List<String> keys = section.keys();
        // the first key that names a step does: a lookup in a file has a set of its own
        Optional<String> kind = keys.stream().filter(kinds::containsKey).findFirst();
        if (kind.isPresent()) {
            Optional<Step> step =
                    kinds.getOrDefault(kind.get(), any -> Optional.empty()).apply(section);
            section.done();
            return step;
        }
        String first = keys.isEmpty() ? "" : keys.getFirst();
        words.add(
                keys.isEmpty() ? section.place() : section.placeOf(first),
                ProblemCode.KEY_UNKNOWN,
                "There is no step " + first + ".",
                NearestNames.suggestion(
                        first, kinds.keySet(), "Steps: " + String.join(", ", kinds.keySet()) + ", include."));
        return Optional.empty();
    }

    private Step lookup(Section section) {
        Placed<String> name = words.stepName(section, "lookup");
        Step.Among among = among(section);
        List<Assignment> match =
                section.requiredSection("match").map(words::assignments).orElse(List.of());
        List<Placed<String>> bring = words.names(section, "bring");
        boolean empty = Words.oneOf(section, "none", "reject", "empty").equals("empty");
        boolean first = Words.oneOf(section, "several", "reject", "first").equals("first");
        return new Step.Lookup(name, among, match, bring, empty, first);
    }

    private Step.Among among(Section section) {
        Placed<String> connection = words.placed(section, "connection");
        if (section.has("file")) {
            return new Step.Among.File(
                    connection,
                    words.placed(section, "file"),
                    source.format(section),
                    source.fields(section),
                    section.section("set").map(words::assignments).orElse(List.of()),
                    Words.oneOf(section, "case", "exact", List.of("exact", "ignore"))
                            .equals("ignore"));
        }
        for (String key : List.of("set", "case")) {
            if (section.has(key)) {
                section.problem(
                        key,
                        ProblemCode.VALUE_WRONG_KIND,
                        key + " stands beside file; the records of a system are compared as the system does.",
                        "Change the row's side in match.");
            }
        }
        return new Step.Among.Records(connection, words.placed(section, "records"));
    }

    private Optional<Step> rule(Section section) {
        boolean warning = isWarning(section);
        Optional<String> message = section.text("message");
        return section.formula("rule").map(formula -> new Step.Rule(formula, message.orElse(broken(formula)), warning));
    }

    private Optional<Step> wholeLoad(Section section) {
        boolean warning = isWarning(section);
        Optional<String> message = section.text("message");
        return section.formula("whole-load")
                .map(formula -> new Step.WholeLoad(formula, message.orElse(broken(formula)), warning));
    }

    private static boolean isWarning(Section section) {
        return Words.oneOf(section, "severity", "error", "warning").equals("warning");
    }

    private static String broken(FormulaSource formula) {
        return "The rule " + formula.text() + " does not hold";
    }

    private Step duplicates(Section section) {
        List<Placed<String>> by = words.names(section, "duplicates");
        String word = Words.oneOf(section, "keep", "none", "first", "last", "sum");
        Keep keep = Keep.valueOf(word.toUpperCase(Locale.ROOT));
        List<Placed<String>> sums = keep == Keep.SUM ? words.names(section, "sum") : List.of();
        return new Step.Duplicates(by, keep, sums);
    }

    private Step group(Section section) {
        Placed<String> name = words.stepName(section, "group");
        List<Placed<String>> by = words.names(section, "by");
        return new Step.Group(
                name,
                by,
                Words.oneOf(section, "line-fails", "together", "alone").equals("alone"));
    }

    private Step combine(Section section) {
        List<Placed<String>> by = words.names(section, "combine");
        List<Assignment> make =
                section.requiredSection("make").map(words::assignments).orElse(List.of());
        return new Step.Combine(by, make);
    }

    private Step wideToLong(Section section) {
        List<Placed<String>> columns = words.names(section, "wide-to-long");
        Placed<String> name = words.stepName(section, "name");
        Placed<String> value = words.stepName(section, "value");
        boolean keep = Words.oneOf(section, "blank", "leave-out", "keep").equals("keep");
        return new Step.WideToLong(columns, name, value, keep);
    }

    private Optional<Step> longToWide(Section section) {
        List<Placed<String>> by = words.names(section, "long-to-wide");
        section.require("name");
        section.require("value");
        Optional<FormulaSource> name = section.formula("name");
        Optional<FormulaSource> value = section.formula("value");
        List<Step.Column> columns = new ArrayList<>();
        section.requiredSection("fields").ifPresent(fields -> {
            for (String field : fields.keys()) {
                fields.text(field)
                        .ifPresent(
                                text -> columns.add(new Step.Column(new Placed<>(field, fields.placeOf(field)), text)));
            }
            fields.done();
        });
        return name.isEmpty() || value.isEmpty()
                ? Optional.empty()
                : Optional.of(new Step.LongToWide(by, name.get(), value.get(), columns));
    }
}
