package dev.nachlauf.core.job;

import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.job.JobDefinition.From;
import dev.nachlauf.core.job.JobDefinition.Read;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.Optional;
import java.util.Set;

/** {@code results:} of a job. */
final class ResultsSection {
    private static final Set<String> NAMES = Set.of("file", "run");

    private final Words words;
    private final Optional<Read> read;

    /** @param read what the job reads; empty where that has errors */
    ResultsSection(Words words, Optional<Read> read) {
        this.words = words;
        this.read = read;
    }

    PutBack putBack(Section section) {
        if (read.isPresent() && !(read.get().from() instanceof From.File)) {
            section.problem(
                    "put-back",
                    ProblemCode.VALUE_WRONG_KIND,
                    "put-back has no meaning where no file is read from a place.",
                    "run results writes them anywhere.");
        }
        Placed<String> name = words.placed(section, "put-back", NAMES);
        String columns = section.isList("columns")
                ? String.join(",", section.texts("columns"))
                : section.text("columns").orElse("");
        boolean replaces = Words.oneOf(section, "if-there", "refuse", "replace").equals("replace");
        section.done();
        return new PutBack(name, columns, replaces);
    }
}
