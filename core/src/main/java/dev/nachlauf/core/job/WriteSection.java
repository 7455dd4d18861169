package dev.nachlauf.core.job;

import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.job.JobDefinition.Action;
import dev.nachlauf.core.job.JobDefinition.Assignment;
import dev.nachlauf.core.job.JobDefinition.Mapping;
import dev.nachlauf.core.job.JobDefinition.Turn;
import dev.nachlauf.core.job.JobDefinition.Value;
import dev.nachlauf.core.job.JobDefinition.Write;
import dev.nachlauf.core.job.JobDefinition.WriteRule;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/** One entry of {@code write}. */
final class WriteSection {
    /** What a file that is there can take. */
    private static final Set<String> ADDING = Set.of("insert", "update", "upsert");

    private final Words words;

    WriteSection(Words words) {
        this.words = words;
    }

    /** The write; two where it names a second key. */
    List<Write> writes(Section section) {
        Optional<List<Placed<String>>> other =
                section.has("or-key") ? Optional.of(words.names(section, "or-key")) : Optional.empty();
        Write write = write(section, other.isPresent() ? Turn.FIRST : Turn.ALONE);
        if (other.isPresent() && write.issue().isPresent()) {
            section.problem(
                    "or-key",
                    ProblemCode.VALUE_WRONG_KIND,
                    "or-key has no meaning for a file, whose rows are found by one key.",
                    "Take it out.");
        }
        if (other.isPresent() && write.action() == Action.REPLACE) {
            section.problem(
                    "or-key",
                    ProblemCode.VALUE_WRONG_KIND,
                    "or-key has no meaning for action: replace, for a record without a key would count as gone.",
                    "Let the job upsert, or make sure that every row has a key.");
        }
        return other.map(key -> List.of(write, write.second(key))).orElse(List.of(write));
    }

    private Write write(Section section, Turn turn) {
        String name = section.has("name") ? words.stepName(section, "name").value() : "";
        Placed<String> connection = words.placed(section, "connection");
        section.require("action");
        String action = Words.oneOf(section, "action", "upsert", "update", "insert", "delete", "replace", "issue");
        Optional<Issue> issue = issue(section, action);
        Placed<String> records = words.placed(section, issue.isPresent() ? "file" : "records", IssueSection.NAMES);
        boolean skipsUnmet =
                unmet(section, "already-there", "insert", action) | unmet(section, "not-found", "update", action);
        Optional<Replacing> replacing = new ReplaceSection(words).replacing(section, action);
        boolean main = Words.flag(section, "main");
        Optional<FormulaSource> when = section.has("when") ? section.formula("when") : Optional.empty();
        Optional<Placed<String>> once =
                section.text("once-per").map(group -> new Placed<>(group, section.placeOfValue("once-per")));
        List<Placed<String>> key =
                action.equals("issue") && !section.has("key") ? List.of() : words.names(section, "key");
        boolean sameNames = Words.flag(section, "same-names");
        List<String> except = section.has("except") ? section.texts("except") : List.of();
        if (!sameNames) {
            section.require("map");
        }
        List<Mapping> map = section.section("map").map(this::map).orElse(List.of());
        section.done();
        return new Write(
                name.isEmpty() ? records.value() : name,
                connection,
                records,
                Action.valueOf(action.toUpperCase(Locale.ROOT)),
                main,
                when,
                once,
                key,
                map,
                sameNames,
                except,
                skipsUnmet,
                replacing,
                issue,
                turn);
    }

    /** How a file is written, where the write names one. */
    private Optional<Issue> issue(Section section, String action) {
        boolean issues = action.equals("issue");
        boolean adds = !issues && section.has("file") && !section.has("records");
        if (adds && !ADDING.contains(action)) {
            section.problem(
                    "file",
                    ProblemCode.VALUE_WRONG_KIND,
                    "A file takes rows with action: issue, insert, update or upsert, not with " + action + ".",
                    "To write a file anew, use action: issue.");
        }
        return issues || adds ? Optional.of(new IssueSection(words).issue(section, adds)) : Optional.empty();
    }

    /** Whether a row is skipped of which the record is not as its action needs it. */
    private static boolean unmet(Section section, String key, String of, String action) {
        if (section.has(key) && !action.equals(of)) {
            section.problem(
                    key,
                    ProblemCode.VALUE_WRONG_KIND,
                    key + " has no meaning for action: " + action + ".",
                    "It goes with action: " + of + ".");
        }
        return Words.oneOf(section, key, "reject", "skip").equals("skip");
    }

    private List<Mapping> map(Section section) {
        List<Mapping> map = new ArrayList<>();
        for (String field : section.keys()) {
            Placed<String> placed = new Placed<>(field, section.placeOf(field));
            if (section.isSection(field)) {
                section.section(field).flatMap(line -> line(placed, line)).ifPresent(map::add);
            } else {
                section.formula(field)
                        .ifPresent(formula ->
                                map.add(new Mapping(placed, new Value.Of(formula), WriteRule.ALWAYS, false, false)));
            }
        }
        section.done();
        return map;
    }

    private Optional<Mapping> line(Placed<String> field, Section section) {
        Optional<Value> value;
        if (section.has("find")) {
            Placed<String> records = words.placed(section, "find");
            List<Assignment> by =
                    section.requiredSection("by").map(words::assignments).orElse(List.of());
            Optional<Placed<String>> bring =
                    section.text("bring").map(one -> new Placed<>(one, section.placeOfValue("bring")));
            value = Optional.of(new Value.Reference(records, by, bring));
        } else {
            section.require("value");
            value = section.formula("value").map(Value.Of::new);
        }
        String rule = Words.oneOf(section, "write", "always", "if-empty", "on-insert");
        boolean leaveBlank = Words.oneOf(section, "blank", "clear", "leave").equals("leave");
        boolean off = Words.flag(section, "off");
        section.done();
        return value.map(one -> new Mapping(
                field, one, WriteRule.valueOf(rule.toUpperCase(Locale.ROOT).replace('-', '_')), leaveBlank, off));
    }
}
