package dev.nachlauf.service.job;

import dev.nachlauf.core.formula.Scope.Fixed;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.formula.Translation;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.job.SharedPieces;
import dev.nachlauf.core.plan.Choice;
import dev.nachlauf.core.plan.Parameters;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.connection.OpenedSystems;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.shared.Crosswalks;
import dev.nachlauf.service.shared.Pieces;
import dev.nachlauf.service.shared.Pins;
import dev.nachlauf.service.source.SourcePart;
import dev.nachlauf.service.source.Sources;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Prepares jobs: for runs, checks, trials and searches for gaps alike. */
@Service
public class JobPreparation {
    private final Connections connections;
    private final Sources sources;
    private final Crosswalks crosswalks;
    private final Pieces pieces;

    private final ScratchSpace scratchSpace;
    private final IssuedFormats formats;

    JobPreparation(
            Connections connections,
            Sources sources,
            Crosswalks crosswalks,
            Pieces pieces,
            ScratchSpace scratchSpace,
            IssuedFormats formats) {
        this.scratchSpace = scratchSpace;
        this.formats = formats;
        this.connections = connections;
        this.sources = sources;
        this.crosswalks = crosswalks;
        this.pieces = pieces;
    }

    /**
     * In what surroundings a job is prepared.
     *
     * @param pins the versions of the pieces
     * @param crosswalks the versions of the crosswalks
     * @param facts what is known of the run, see {@link #facts}
     * @param kept the files that the job reads beside its source, as {@link JobSystems#kept} gave them; empty where they are
     *     still to be fetched
     * @param choice which rows of the source it is about
     * @param heard what stands between formulas and crosswalks, for whoever wants to hear what is translated
     * @param open systems that are open already and stay open when the prepared job is closed; empty where it opens its own
     */
    public record Circumstances(
            Pins pins,
            Pins crosswalks,
            Map<String, @Nullable Object> parameters,
            Map<String, Fixed> facts,
            Map<String, List<SourcePart>> kept,
            Choice choice,
            UnaryOperator<Map<String, Translation>> heard,
            Optional<OpenedSystems> open) {
        /** Where nobody listens, and nothing is open yet. */
        public Circumstances(
                Pins pins,
                Pins crosswalks,
                Map<String, @Nullable Object> parameters,
                Map<String, Fixed> facts,
                Map<String, List<SourcePart>> kept,
                Choice choice) {
            this(pins, crosswalks, parameters, facts, kept, choice, UnaryOperator.identity(), Optional.empty());
        }

        /** The same for somebody who hears what is translated. */
        public Circumstances heardBy(UnaryOperator<Map<String, Translation>> listener) {
            return new Circumstances(pins, crosswalks, parameters, facts, kept, choice, listener, open);
        }

        /** The same over systems that somebody else opens and closes. */
        public Circumstances over(OpenedSystems others) {
            return new Circumstances(pins, crosswalks, parameters, facts, kept, choice, heard, Optional.of(others));
        }

        /** Of no run, with the newest versions. */
        public static Circumstances newest(Map<String, @Nullable Object> parameters) {
            return new Circumstances(
                    Pins.NEWEST,
                    Pins.NEWEST,
                    parameters,
                    JobPreparation.facts(null, "", Instant.EPOCH),
                    Map.of(),
                    Choice.ALL);
        }
    }

    /**
     * Prepares a job.
     *
     * @param columns the fields of its source
     * @param source opens its source at the start
     * @param problems what is wrong with it; added to
     */
    public PreparedJob prepare(
            JobDefinition job,
            Circumstances circumstances,
            List<SourceColumn> columns,
            Supplier<SourceReader> source,
            List<Problem> problems) {
        Surroundings surroundings = new Surroundings(
                Parameters.fixed(job, circumstances.parameters()),
                circumstances.facts(),
                circumstances.heard().apply(crosswalks.translations(circumstances.crosswalks())),
                pieces.of(job.pieces(), circumstances.pins(), problems).formulas());
        JobSystems systems = new JobSystems(
                connections,
                circumstances.open(),
                circumstances.parameters(),
                new LookupFiles(sources, scratchSpace, StandingFiles.others(circumstances.kept())),
                new StandingFiles(sources, scratchSpace, circumstances.kept()),
                formats);
        try {
            Optional<Plan> plan = Planner.plan(job, surroundings, columns, circumstances.choice(), systems, problems);
            plan.ifPresent(systems::planned);
            return new PreparedJob(job, surroundings, columns, systems, plan, source, problems);
        } catch (RuntimeException e) {
            systems.close();
            throw e;
        }
    }

    /** The systems that connections lead to, without a job; to be closed. */
    public JobSystems systems() {
        return new JobSystems(
                connections,
                Optional.empty(),
                Map.of(),
                new LookupFiles(sources, scratchSpace, Map.of()),
                new StandingFiles(sources, scratchSpace, Map.of()),
                formats);
    }

    /** Facts of a run, as far as they are known. */
    public static Map<String, Fixed> facts(@Nullable Long run, String user, Instant started) {
        return Map.of(
                "run.id", new Fixed(Kind.TEXT, run == null ? null : String.valueOf(run)),
                "run.user", new Fixed(Kind.TEXT, user),
                "run.started",
                        new Fixed(
                                Kind.TIMESTAMP,
                                LocalDateTime.ofInstant(started, ZoneOffset.UTC).truncatedTo(ChronoUnit.SECONDS)));
    }

    /** The pieces that a job includes. */
    public SharedPieces pieces(List<Placed<String>> names, Pins pins, List<Problem> problems) {
        return pieces.of(names, pins, problems);
    }

    /** The newest versions of the shared documents that a job uses, to be kept with a run. */
    public Map<String, String> pins(JobDefinition job, String document) {
        Map<String, String> pins = new TreeMap<>(pieces.pins(job.pieces()));
        pins.putAll(crosswalks.pins(document));
        pieces.texts(job.pieces()).forEach(text -> pins.putAll(crosswalks.pins(text)));
        return pins;
    }
}
