package dev.nachlauf.service.job;

import dev.nachlauf.core.issue.IssuedFiles;
import dev.nachlauf.core.job.Issue;
import dev.nachlauf.core.job.JobDefinition.Format;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Characters;
import dev.nachlauf.core.system.EditsRows;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.OutputFormat;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.service.source.SourcePart;
import dev.nachlauf.service.source.Sources;
import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** In which format the files of a job are issued. */
@Component
public class IssuedFormats {
    private static final String ENCODING = "encoding";

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
        if (issue.adds() && !(sources.format(format.get().name()) instanceof EditsRows)) {
            problems.add(Problem.at(
                    file.place(),
                    ProblemCode.OUTPUT_UNFIT,
                    "Rows can't be added to a file of the format "
                            + format.get().name() + ".",
                    "Such a file is written whole, with action: issue. Rows are added to files of these formats: "
                            + editable() + "."));
            return Optional.empty();
        }
        return FormatCheck.options(format.get().name(), options(issue, format.get()), issue.format(), problems)
                ? Optional.of(field -> format.get().demanded(field, FormatCheck.options(issue.format())))
                : Optional.empty();
    }

    /** What can be said of a file that is written, and how one is read that may be there already. */
    private List<Setting> options(Issue issue, OutputFormat format) {
        List<Setting> options = new ArrayList<>(format.options());
        if (issue.adds()) {
            Set<String> known = options.stream().map(Setting::name).collect(Collectors.toSet());
            sources.format(format.name()).options().stream()
                    .filter(option -> !known.contains(option.name()))
                    .forEach(options::add);
        }
        return options;
    }

    private String editable() {
        return sources.formats().stream()
                .filter(name -> sources.format(name) instanceof EditsRows)
                .collect(Collectors.joining(", "));
    }

    /** The word of the format in which a file is written. */
    String name(Issue issue, String file) {
        return format(issue.format(), file).orElseThrow().name();
    }

    /** How a file that is there is read; how a new one would be spelled plays no part. */
    FormatOptions reading(Issue issue, String file) {
        List<String> known = sources.format(name(issue, file)).options().stream()
                .map(Setting::name)
                .toList();
        Map<String, String> stated =
                new HashMap<>(FormatCheck.options(issue.format()).stated());
        // a new workbook has one sheet; of one that is there, one is meant
        Optional.ofNullable(stated.get("sheet")).ifPresent(sheet -> stated.put("sheets", sheet));
        stated.keySet().retainAll(known);
        return FormatOptions.of(stated);
    }

    /** What the fields of a file that is there have to be: its encoding counts, whatever a new one would have. */
    UnaryOperator<FieldDescription> demanded(Issue issue, String file, SourcePart there) {
        Map<String, String> options =
                new HashMap<>(FormatCheck.options(issue.format()).stated());
        Optional.ofNullable(there.options().get(ENCODING)).ifPresent(encoding -> options.put(ENCODING, encoding));
        OutputFormat format = format(issue.format(), file).orElseThrow();
        return field -> format.demanded(field, FormatOptions.of(options));
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
