package dev.nachlauf.core.plan;

import dev.nachlauf.core.job.JobDefinition.Write;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import java.util.List;
import java.util.stream.Collectors;

/** What is to be said of a key that can be used, but may bring trouble. */
record KeyWarnings(Write write, RecordDescription target, List<Problem> problems) {
    /** What the target doesn't keep unique can become double. */
    void notUnique() {
        boolean known = write.key().stream()
                .allMatch(field -> target.field(field.value()).isPresent());
        if (known && !write.key().isEmpty()) {
            add(
                    write.key().getFirst(),
                    ProblemCode.KEY_NOT_UNIQUE,
                    "Nothing in " + target.name() + " keeps "
                            + write.key().stream().map(Placed::value).collect(Collectors.joining(" + "))
                            + " unique: others can make duplicates beside this job, and so does the job itself when a value"
                            + " of the key changes in the source.",
                    unique(target));
        }
    }

    /** Keys are shown wherever a record is named, so they can't be kept from anybody. */
    void sensitive() {
        for (Placed<String> part : write.key()) {
            if (target.field(part.value()).filter(FieldDescription::sensitive).isPresent()) {
                add(
                        part,
                        ProblemCode.KEY_SENSITIVE,
                        "The key's field " + part.value()
                                + " is marked as sensitive, but keys are shown in ledger and rejects.",
                        "Choose another key, or take the mark away.");
            }
        }
    }

    /** The unique keys of a target, for people. */
    static String unique(RecordDescription target) {
        List<String> keys = target.uniqueKeys().stream()
                .map(UniqueKey::fields)
                .map(fields -> String.join(" + ", fields))
                .distinct()
                .toList();
        return keys.isEmpty() ? "It has no unique fields." : "Unique there: " + String.join("; ", keys) + ".";
    }

    private void add(Placed<String> at, ProblemCode code, String sentence, String remedy) {
        problems.add(Problem.at(at.place(), code, sentence, remedy));
    }
}
