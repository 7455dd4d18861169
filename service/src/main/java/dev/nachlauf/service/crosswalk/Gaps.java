package dev.nachlauf.service.crosswalk;

import dev.nachlauf.api.FileView;
import dev.nachlauf.api.GapView;
import dev.nachlauf.api.SourceRequest;
import dev.nachlauf.core.crosswalk.Gap;
import dev.nachlauf.core.formula.Translation;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.plan.SensitiveColumns;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.step.MappedRows;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.job.JobParameters;
import dev.nachlauf.service.job.JobPreparation;
import dev.nachlauf.service.job.JobPreparation.Circumstances;
import dev.nachlauf.service.job.JobSources;
import dev.nachlauf.service.job.JobSources.FirstLook;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.job.PreparedJob;
import dev.nachlauf.service.run.RunPreparation;
import dev.nachlauf.service.shared.Crosswalks;
import dev.nachlauf.service.shared.Pins;
import dev.nachlauf.service.source.SourceRows;
import dev.nachlauf.service.web.Masked;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Lists values that crosswalks do not translate, by the crosswalks as they are now. */
@Component
class Gaps {
    private static final int MOST = 10_000;
    private static final int MOST_EXAMPLES = 3;

    private final RunPreparation runs;
    private final Jobs jobs;
    private final JobParameters parameters;
    private final JobSources sources;
    private final JobPreparation preparation;
    private final Crosswalks crosswalks;
    private final SourceRows rows;
    private final FileStore files;

    private final ScratchSpace scratchSpace;

    Gaps(
            RunPreparation runs,
            Jobs jobs,
            JobParameters parameters,
            JobSources sources,
            JobPreparation preparation,
            Crosswalks crosswalks,
            SourceRows rows,
            FileStore files,
            ScratchSpace scratchSpace) {
        this.scratchSpace = scratchSpace;
        this.runs = runs;
        this.jobs = jobs;
        this.parameters = parameters;
        this.sources = sources;
        this.preparation = preparation;
        this.crosswalks = crosswalks;
        this.rows = rows;
        this.files = files;
    }

    /** Counts by value, commonest first. */
    private static final class Found {
        private final Map<Gap, Long> counts = new LinkedHashMap<>();
        private final Map<Gap, List<String>> examples = new LinkedHashMap<>();

        void add(Gap gap, Origin origin) {
            if (counts.size() >= MOST && !counts.containsKey(gap)) {
                return;
            }
            counts.merge(gap, 1L, Long::sum);
            List<String> places = examples.computeIfAbsent(gap, any -> new ArrayList<>());
            if (places.size() < MOST_EXAMPLES) {
                places.add(origin.text());
            }
        }

        List<GapView> views() {
            return counts.entrySet().stream()
                    .sorted(Map.Entry.<Gap, Long>comparingByValue(Comparator.reverseOrder())
                            .thenComparing(entry -> entry.getKey().value())
                            .thenComparing(entry -> entry.getKey().scope()))
                    .map(entry -> new GapView(
                            entry.getKey().crosswalk(),
                            entry.getKey().scope(),
                            entry.getKey().value(),
                            entry.getValue(),
                            examples.getOrDefault(entry.getKey(), List.of())))
                    .toList();
        }
    }

    /** The gaps that the rows of a run meet: its kept source goes through its job once more, and nothing is written. */
    List<GapView> ofRun(long id) {
        try (ScratchFolder scratch = scratchSpace.create();
                PreparedJob prepared = runs.withNewestCrosswalks(id, scratch.path())) {
            return met(prepared, scratch);
        }
    }

    /**
     * The gaps that a job would meet in its source as it is now; nothing is written.
     *
     * @param source the hash of a file that is read instead of what the job names; null for that
     */
    List<GapView> ofJob(String name, @Nullable String source, @Nullable String sourceName) {
        JobDefinition job = jobs.definition(jobs.newest(name), Pins.NEWEST);
        FileView given = source == null ? null : files.find(source, Objects.requireNonNullElse(sourceName, "upload"));
        List<Problem> problems = new ArrayList<>();
        Map<String, @Nullable Object> values = parameters.values(job, problems);
        try (ScratchFolder scratch = scratchSpace.create()) {
            FirstLook look = sources.firstLook(job, values, given, scratch.path(), problems)
                    .orElseThrow(() -> new CannotGoOn(problems));
            try (PreparedJob prepared =
                    preparation.prepare(job, Circumstances.newest(values), look.columns(), look.open(), problems)) {
                return met(prepared, scratch);
            }
        }
    }

    private static List<GapView> met(PreparedJob prepared, ScratchFolder scratch) {
        Found found = new Found();
        // a value that reaches a sensitive field is counted, but not told
        Masked masked = new Masked(Set.copyOf(SensitiveColumns.of(prepared.plan())), Set.of());
        List<String> header =
                prepared.columns().stream().map(SourceColumn::name).toList();
        try (MappedRows rows = prepared.rows(scratch.path())) {
            for (TargetRow row = rows.next(); row != null; row = rows.next()) {
                SourceRow source = row.row().source();
                List<@Nullable String> raw =
                        Arrays.stream(source.cells()).map(Values::text).toList();
                row.problems().stream()
                        .filter(problem -> problem.code() == ProblemCode.NO_TRANSLATION)
                        .flatMap(problem -> Gap.of(problem.subject()).stream())
                        .map(gap -> masked.isMasked(gap.value(), header, raw)
                                ? new Gap(gap.crosswalk(), gap.scope(), Masked.HIDDEN)
                                : gap)
                        .forEach(gap -> found.add(gap, source.origin()));
            }
        }
        return found.views();
    }

    /**
     * The gaps that a field of a source has, before any job is run.
     *
     * @param crosswalk null for those by which saved jobs translate a field of this name
     */
    List<GapView> ofField(
            @Nullable String crosswalk, SourceRequest request, String field, @Nullable String scopeField) {
        Map<String, Translation> all = crosswalks.translations(Pins.NEWEST);
        Map<String, Translation> asked = new TreeMap<>();
        for (String name : crosswalk == null ? translating(field) : Set.of(crosswalk)) {
            asked.put(name, all.containsKey(name) ? all.get(name) : unknown(name, all.keySet()));
        }
        Found found = new Found();
        rows.read(request, (fields, sensitive, reader) -> {
            int index = index(fields, field);
            int scope = scopeField == null ? -1 : index(fields, scopeField);
            for (SourceRow row = reader.next(); row != null; row = reader.next()) {
                if (row.problems().isEmpty()) {
                    String value = Values.text(row.cell(index));
                    String of = scope < 0 ? null : Values.text(row.cell(scope));
                    for (String name : lacking(asked, value, of)) {
                        String shownScope =
                                scopeField != null && sensitive.contains(scopeField) ? Masked.HIDDEN : text(of);
                        String shown = sensitive.contains(field) ? Masked.HIDDEN : text(value);
                        found.add(new Gap(name, shownScope, shown), row.origin());
                    }
                }
            }
        });
        return found.views();
    }

    private static String text(@Nullable String value) {
        return Objects.requireNonNullElse(value, "");
    }

    /** The crosswalks that have no translation. */
    private static List<String> lacking(
            Map<String, Translation> crosswalks, @Nullable String value, @Nullable String scope) {
        List<String> lacking = new ArrayList<>();
        crosswalks.forEach((name, translation) -> {
            try {
                translation.translate(value, scope);
            } catch (ValueProblem problem) {
                lacking.add(name);
            }
        });
        return lacking;
    }

    private Set<String> translating(String field) {
        Set<String> names = new TreeSet<>();
        for (Jobs.Version job : jobs.list()) {
            Crosswalks.uses(job.version().document()).stream()
                    .filter(use -> use.field().filter(field::equalsIgnoreCase).isPresent())
                    .forEach(use -> names.add(use.crosswalk()));
        }
        if (names.isEmpty()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.CROSSWALK_UNKNOWN,
                    "No saved job translates a field " + field + " by a crosswalk.",
                    "Name the crosswalk."));
        }
        return names;
    }

    private static Translation unknown(String name, Set<String> known) {
        throw new CannotGoOn(Problem.of(
                ProblemCode.CROSSWALK_UNKNOWN,
                "There is no crosswalk " + name + ".",
                NearestNames.suggestion(name, known, "Save it first.")));
    }

    private static int index(List<SourceField> fields, String name) {
        List<String> names = fields.stream().map(SourceField::name).toList();
        int index = names.indexOf(name);
        if (index < 0) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FIELD_UNKNOWN,
                    "The source has no field " + name + ".",
                    NearestNames.suggestion(name, names, "Fields: " + String.join(", ", names) + ".")));
        }
        return index;
    }
}
