package dev.nachlauf.service.job;

import dev.nachlauf.core.issue.IssuedFiles;
import dev.nachlauf.core.job.Issue;
import dev.nachlauf.core.job.JobDefinition.Format;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Characters;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.OutputFormat;
import dev.nachlauf.service.source.Sources;
import java.nio.charset.Charset;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.springframework.stereotype.Component;

/** In which format the files of a job are issued. */
@Component
public class IssuedFormats {
    private final Sources sources;

    IssuedFormats(Sources sources) {
        this.sources = sources;
    }

    /** What the fields of a file have to be; empty where its format isn't clear, which is said. */
    Optional<UnaryOperator<FieldDescription>> demanded(
            Issue issue, Placed<String> file, String name, List<Problem> problems) {
        if (issue.text().isPresent()) {
            Characters some = Characters.of(Charset.forName(issue.text().get().encoding()));
            return Optional.of(field -> field.holding(some));
        }
        Optional<OutputFormat> format = format(issue.format(), name);
        if (format.isEmpty()) {
            Placed<String> at = issue.format().as().orElse(file);
            problems.add(Problem.at(
                    at.place(),
                    ProblemCode.VALUE_WRONG_KIND,
                    issue.format().as().isPresent()
                            ? "Files can't be written as " + at.value() + "."
                            : "The name " + name + " doesn't say in which format the file is written.",
                    "Say format: { as: … }, which is one of " + String.join(", ", sources.outputs()) + "."));
            return Optional.empty();
        }
        return FormatCheck.options(format.get().name(), format.get().options(), issue.format(), problems)
                ? Optional.of(field -> format.get().demanded(field, FormatCheck.options(issue.format())))
                : Optional.empty();
    }

    private Optional<OutputFormat> format(Format said, String file) {
        return sources.output(said.as().map(Placed::value).orElse(null), file);
    }

    /** Begins files as the writes say. */
    public IssuedFiles.Outputs outputs() {
        return (write, out, fields) -> {
            Format said = write.issue().orElseThrow().format();
            return format(said, write.target().name()).orElseThrow().write(out, fields, FormatCheck.options(said));
        };
    }
}
