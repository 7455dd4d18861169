package dev.nachlauf.service.result;

import dev.nachlauf.api.RunView;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.PutBack;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.HoldsFiles.FoundFile;
import dev.nachlauf.core.system.TakesFiles;
import dev.nachlauf.core.template.Escape;
import dev.nachlauf.core.template.TextTemplate;
import dev.nachlauf.service.background.Worker;
import dev.nachlauf.service.environment.ChosenEnvironment;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.job.PreparedJob;
import dev.nachlauf.service.result.ResultFiles.Wanted;
import dev.nachlauf.service.result.ResultFiles.Written;
import dev.nachlauf.service.run.PutBackRuns;
import dev.nachlauf.service.run.RunEnded;
import dev.nachlauf.service.run.RunPreparation;
import dev.nachlauf.service.run.RunViews;
import dev.nachlauf.service.source.SourcePart;
import dev.nachlauf.service.store.Hashes;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.function.UnaryOperator;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/** Puts the results of finished runs beside the files that they have read, where their jobs say so. */
@Component
class PuttingBack {
    private static final Logger LOG = LoggerFactory.getLogger(PuttingBack.class);
    private static final Duration EVERY = Duration.ofSeconds(5);

    private final PutBackRuns due;
    private final ResultFiles results;
    private final RunViews views;
    private final RunPreparation preparation;
    private final ScratchSpace scratchSpace;
    private final FileStore files;
    private final Worker worker = new Worker("put-back", "results could not be put back", this::all);

    PuttingBack(
            PutBackRuns due,
            ResultFiles results,
            RunViews views,
            RunPreparation preparation,
            ScratchSpace scratchSpace,
            FileStore files) {
        this.files = files;
        this.due = due;
        this.results = results;
        this.views = views;
        this.preparation = preparation;
        this.scratchSpace = scratchSpace;
    }

    @EventListener(ApplicationReadyEvent.class)
    void start() {
        worker.start(Duration.ofSeconds(1), EVERY);
    }

    @PreDestroy
    void stop() {
        worker.close();
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void ended(RunEnded run) {
        worker.wake();
    }

    private void all() {
        for (OptionalLong run = due.next(); run.isPresent(); run = due.next()) {
            one(run.getAsLong());
        }
    }

    private void one(long id) {
        RunView run = views.show(id);
        try {
            List<String> put = ChosenEnvironment.during(run.environment(), () -> put(run));
            due.done(id, "The results are in " + String.join(", ", put) + ".");
        } catch (CannotGoOn e) {
            Problem why = e.problems().getFirst();
            String note = "The results could not be put back: " + why.sentence();
            if (e.isTemporary()) {
                due.later(id, note);
            } else {
                due.failed(id, note + " run results " + id + " --out FILE has them.");
            }
        } catch (RuntimeException e) {
            LOG.error("the results of run {} met a defect", id, e);
            due.later(id, "The results could not be put back: a defect of Nachlauf; the service's log says more.");
        }
    }

    private List<String> put(RunView run) {
        List<String> put = new ArrayList<>();
        try (ScratchFolder scratch = scratchSpace.create();
                PreparedJob job = preparation.asItWas(run.id(), scratch.path(), UnaryOperator.identity())) {
            JobDefinition definition = job.plan().job();
            PutBack asked = definition.putBack().orElseThrow();
            String connection = definition.read().connection().value();
            TakesFiles place = job.systems().place(connection);
            for (SourcePart part : preparation.parts(run.id())) {
                put.add(connection + " " + put(run, part, asked, place, scratch));
            }
        } catch (IOException e) {
            throw new CannotGoOn(Problem.of(ProblemCode.INTERNAL, "They can't be written: " + e.getMessage(), ""), e);
        }
        return put;
    }

    private String put(RunView run, SourcePart part, PutBack asked, TakesFiles place, ScratchFolder scratch)
            throws IOException {
        String columns = asked.columns().isEmpty() ? null : asked.columns();
        Written written = results.write(new Wanted(run.id(), null, part.member(), columns, true), scratch.path());
        String name = name(run, part.member(), asked, ending(written.name()));
        String ours = Hashes.of(written.path()).hash();
        for (FoundFile there : place.find(name)) {
            String held = Hashes.of(place.open(there)).hash();
            if (held.equals(ours)) {
                // an attempt that was broken off has put them there
                return name;
            }
            requireReplaceable(there, held, part, asked);
        }
        try (InputStream bytes = Files.newInputStream(written.path())) {
            due.take(run.id(), files.keep(name, bytes).hash());
        }
        place.put(name, written.path());
        return name;
    }

    private static String name(RunView run, String member, PutBack asked, String ending) {
        String file = member.substring(member.lastIndexOf('/') + 1);
        int dot = file.lastIndexOf('.');
        Map<String, String> facts =
                Map.of("file", dot <= 0 ? file : file.substring(0, dot), "run", String.valueOf(run.id()));
        String name = TextTemplate.of(asked.name().value())
                .filled(place -> facts.getOrDefault(place, run.parameters().getOrDefault(place, "")), Escape.NONE);
        return name + ending;
    }

    private static String ending(String name) {
        int dot = name.lastIndexOf('.');
        return dot < 0 ? "" : name.substring(dot);
    }

    /** What was read may be replaced where the job says so, unless it has changed since; so may results of earlier runs. */
    private static void requireReplaceable(FoundFile there, String held, SourcePart part, PutBack asked) {
        if (!asked.replaces()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_THERE, "There is a file " + there.name() + " already.", "Say if-there: replace."));
        }
        boolean original = there.name().equals(part.file().name());
        if (original && !held.equals(part.file().hash())) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_THERE,
                    there.name() + " is no longer the file that was read.",
                    "Take the results from the run."));
        }
    }
}
