package dev.nachlauf.service.crosswalk;

import dev.nachlauf.api.GapView;
import dev.nachlauf.api.SourceRequest;
import dev.nachlauf.core.crosswalk.Gap;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.formula.Translation;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.plan.Parameters;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.RowFlow;
import dev.nachlauf.core.step.Shaping;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.job.JobPlanning;
import dev.nachlauf.service.job.JobSystems;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.run.Runs;
import dev.nachlauf.service.run.Runs.KeptInput;
import dev.nachlauf.service.shared.Crosswalks;
import dev.nachlauf.service.shared.Pins;
import dev.nachlauf.service.source.ScratchFolder;
import dev.nachlauf.service.source.SourceRows;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Lists values that crosswalks do not translate, by the crosswalks as they are now. */
@Component
class Gaps {
    private static final int MOST = 10_000;
    private static final int MOST_EXAMPLES = 3;

    private final Runs runs;
    private final Jobs jobs;
    private final JobPlanning planning;
    private final Crosswalks crosswalks;
    private final SourceRows rows;

    Gaps(Runs runs, Jobs jobs, JobPlanning planning, Crosswalks crosswalks, SourceRows rows) {
        this.runs = runs;
        this.jobs = jobs;
        this.planning = planning;
        this.crosswalks = crosswalks;
        this.rows = rows;
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
                            .thenComparing(entry -> entry.getKey().value()))
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
        KeptInput input = runs.input(id);
        Pins pins = new Pins(input.pins());
        JobDefinition job = jobs.definition(jobs.version(input.job(), input.version()), pins);
        List<Problem> problems = new ArrayList<>();
        Map<String, @Nullable Object> parameters = Parameters.resolve(job, input.parameters(), problems);
        Surroundings pinned = planning.surroundings(
                job, parameters, JobPlanning.facts(id, input.startedBy(), input.createdAt()), pins, problems);
        Surroundings current = pinned.translating(crosswalks.translations(Pins.NEWEST));
        Found found = new Found();
        try (ScratchFolder scratch = ScratchFolder.create();
                JobSystems systems = planning.systems(parameters, input.lookups())) {
            Plan plan = Planner.plan(job, current, input.columns(), systems, problems)
                    .orElseThrow(() -> new CannotGoOn(problems));
            Mapper mapper = new Mapper(plan);
            try (RowFlow flow = Shaping.flow(
                    plan,
                    planning.reader(job, input.parts(), input.columns(), scratch.path()),
                    systems,
                    scratch.path(),
                    warning -> {})) {
                for (FlowRow row = flow.next(); row != null; row = flow.next()) {
                    Origin origin = row.source().origin();
                    mapper.map(row).problems().stream()
                            .filter(problem -> problem.code() == ProblemCode.NO_TRANSLATION)
                            .forEach(problem -> Gap.of(problem.subject()).ifPresent(gap -> found.add(gap, origin)));
                }
            }
        }
        return found.views();
    }

    /** The gaps that a field of a source has, before any job is run. */
    List<GapView> ofField(String crosswalk, SourceRequest request, String field, @Nullable String scopeField) {
        crosswalks.show(crosswalk);
        Translation translation = Objects.requireNonNull(
                crosswalks.translations(Pins.NEWEST).get(crosswalk), "it was shown a line above");
        Found found = new Found();
        rows.read(request, (fields, reader) -> {
            int index = index(fields, field);
            int scope = scopeField == null ? -1 : index(fields, scopeField);
            for (SourceRow row = reader.next(); row != null; row = reader.next()) {
                if (row.problems().isEmpty()) {
                    String value = Values.text(row.cells()[index]);
                    String of = scope < 0 ? null : Values.text(row.cells()[scope]);
                    try {
                        translation.translate(value, of);
                    } catch (ValueProblem problem) {
                        Gap gap = new Gap(crosswalk, of == null ? "" : of, value == null ? "" : value);
                        found.add(gap, row.origin());
                    }
                }
            }
        });
        return found.views();
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
