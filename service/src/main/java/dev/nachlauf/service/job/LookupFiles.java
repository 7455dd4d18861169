package dev.nachlauf.service.job;

import dev.nachlauf.api.FileView;
import dev.nachlauf.core.job.JobDefinition.FieldDeclaration;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.job.Step.Among;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.step.FileRecords;
import dev.nachlauf.core.step.Found;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.source.OpenedSource;
import dev.nachlauf.service.source.SourcePart;
import dev.nachlauf.service.source.Sources;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * The files in which lookups of a job find records. A file is fetched once, and a run keeps what it fetched, so that a
 * later attempt finds the same.
 */
final class LookupFiles implements AutoCloseable {
    private final Sources sources;
    private final ScratchSpace scratchSpace;
    private final Map<String, List<SourcePart>> kept;
    private final Map<Among.File, Looked> looked = new HashMap<>();
    private final Map<Finding, FileRecords> records = new HashMap<>();
    private @Nullable ScratchFolder scratch;

    /** A file with its columns and the way in which each is read. */
    private record Looked(OpenedSource source, List<SourceColumn> columns) {}

    /** @param kept what was fetched before, by {@link #name} */
    LookupFiles(Sources sources, ScratchSpace scratchSpace, Map<String, List<SourcePart>> kept) {
        this.sources = sources;
        this.scratchSpace = scratchSpace;
        this.kept = new LinkedHashMap<>(kept);
    }

    /** Adds what is wrong with the way a file is said to be read; false where something is. */
    boolean checkFormat(Among.File file, List<Problem> problems) {
        return FormatCheck.check(sources, file.format(), problems);
    }

    /** The files that were looked at, each with the name under which it is found again. */
    Map<String, List<SourcePart>> kept() {
        return Map.copyOf(kept);
    }

    /** The name of a file; the same one that is taken apart in two ways has two. */
    private static String name(String connection, String file, Among.File said) {
        Map<String, String> options = FormatCheck.options(said.format()).stated();
        return connection + " " + file + (options.isEmpty() ? "" : " " + options);
    }

    /**
     * The columns of a file as fields of records.
     *
     * @param connection the connection's name
     * @param file the file's name, perhaps with wildcards
     * @throws CannotGoOn where the file can't be read
     */
    RecordDescription describe(
            Among.File said, String connection, String file, HoldsFiles place, List<Problem> problems) {
        String name = name(connection, file, said);
        List<SourcePart> parts = kept.get(name);
        if (parts == null) {
            List<FileView> files = sources.fetch(connection, place, file);
            if (files.isEmpty()) {
                throw new CannotGoOn(Problem.at(
                        said.file().place(),
                        ProblemCode.FILE_MISSING,
                        "No file " + file + " is in " + connection + ".",
                        "Put it there, or correct the name."));
            }
            parts = sources.parts(
                    files, said.format().as().map(Placed::value), FormatCheck.options(said.format()), folder());
        }
        OpenedSource source = sources.look(parts, declared(said), folder());
        kept.put(name, source.parts());
        List<SourceColumn> columns = columns(said, file, source, problems);
        looked.put(said, new Looked(source, columns));
        return new RecordDescription(
                file,
                false,
                columns.stream()
                        .map(column -> FieldDescription.plain(
                                column.name(), column.reading().kind()))
                        .toList(),
                List.of(),
                List.of());
    }

    private static List<String> declared(Among.File said) {
        return said.fields().stream().map(field -> field.name().value()).toList();
    }

    private static List<SourceColumn> columns(
            Among.File said, String file, OpenedSource source, List<Problem> problems) {
        Map<String, FieldDeclaration> declared = new LinkedHashMap<>();
        said.fields().forEach(field -> declared.put(field.name().value(), field));
        List<Kind> kinds = source.sample().kinds();
        List<SourceColumn> columns = new ArrayList<>();
        for (SourceField field : source.fields()) {
            FieldDeclaration declaration = declared.remove(field.name());
            Reading known = kinds.isEmpty() ? Reading.TEXT : new Reading(kinds.get(columns.size()), null, null);
            columns.add(new SourceColumn(field, declaration == null ? known : declaration.reading(), ""));
        }
        List<String> names = columns.stream().map(SourceColumn::name).toList();
        declared.forEach((name, field) -> problems.add(Problem.at(
                field.name().place(),
                ProblemCode.FIELD_UNKNOWN,
                file + " has no field " + name + ".",
                NearestNames.suggestion(name, names, "Fields: " + String.join(", ", names) + "."))));
        return columns;
    }

    /** One answer per key, in order. */
    List<Found> find(Finding finding, Among.File file, List<Object[]> keys) {
        return records.computeIfAbsent(finding, any -> read(finding, file)).find(keys);
    }

    private FileRecords read(Finding finding, Among.File file) {
        Looked from = Objects.requireNonNull(looked.get(file), "a file is looked at before records are found in it");
        return FileRecords.read(
                FileRecords.Wanted.of(finding),
                from.columns,
                sources.joined(from.source.parts(), from.source.fields(), declared(file), folder()),
                folder());
    }

    private Path folder() {
        if (scratch == null) {
            scratch = scratchSpace.create();
        }
        return scratch.path();
    }

    @Override
    public void close() {
        records.values().forEach(FileRecords::close);
        if (scratch != null) {
            scratch.close();
        }
    }
}
