package dev.nachlauf.service.job;

import dev.nachlauf.core.job.JobDefinition.Format;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.SourceFormat;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.service.source.Sources;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What a job says of the format of files. */
final class FormatCheck {
    private FormatCheck() {}

    /** Adds what is wrong with a format and its options; false where something is. */
    static boolean check(Sources sources, Format said, List<Problem> problems) {
        Optional<Placed<String>> as = said.as();
        if (as.isEmpty()) {
            return true;
        }
        List<String> formats = sources.formats();
        if (!formats.contains(as.get().value())) {
            problems.add(Problem.at(
                    as.get().place(),
                    ProblemCode.VALUE_WRONG_KIND,
                    "There is no format " + as.get().value() + ".",
                    NearestNames.suggestion(
                            as.get().value(), formats, "Formats: " + String.join(", ", formats) + ".")));
            return false;
        }
        SourceFormat format = sources.format(as.get().value());
        return options(format.name(), format.options(), said, problems);
    }

    /** Adds what is wrong with the options of a format; false where something is. */
    static boolean options(String format, List<Setting> options, Format said, List<Problem> problems) {
        List<String> known = options.stream().map(Setting::name).toList();
        said.options().forEach((name, option) -> {
            if (!known.contains(name)) {
                problems.add(Problem.at(
                        option.place(),
                        ProblemCode.KEY_UNKNOWN,
                        "The format " + format + " has no option " + name + ".",
                        NearestNames.suggestion(name, known, "Options: " + String.join(", ", known) + ".")));
            }
        });
        return known.containsAll(said.options().keySet());
    }

    /** The options as formats take them. */
    static FormatOptions options(Format said) {
        Map<String, String> options = new LinkedHashMap<>();
        said.options().forEach((name, option) -> options.put(name, option.value()));
        return FormatOptions.of(options);
    }
}
