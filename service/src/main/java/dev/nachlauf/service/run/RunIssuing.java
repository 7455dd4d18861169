package dev.nachlauf.service.run;

import dev.nachlauf.api.IssuedFileView;
import dev.nachlauf.core.issue.IssuedFiles;
import dev.nachlauf.core.issue.IssuedFiles.Made;
import dev.nachlauf.core.job.Issue;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.LedgerChunks;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.core.system.TakesFiles;
import dev.nachlauf.service.job.IssuedFormats;
import dev.nachlauf.service.job.JobSystems;
import dev.nachlauf.service.job.PreparedJob;
import dev.nachlauf.service.store.Hashes;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.locks.Lock;
import java.util.concurrent.locks.ReentrantLock;
import org.springframework.stereotype.Component;

/** Makes the files of a run and delivers them. */
@Component
class RunIssuing {
    private static final String TAKEN = "The files of this run can be taken from it: run issued.";

    private final Lock adding = new ReentrantLock();
    private final IssuedFormats formats;
    private final RunFacts facts;

    RunIssuing(IssuedFormats formats, RunFacts facts) {
        this.formats = formats;
        this.facts = facts;
    }

    static boolean issues(Plan plan) {
        return plan.writes().stream().anyMatch(write -> write.issue().isPresent());
    }

    /** Makes the files of a run from its ledger. */
    List<Made> made(RunEntity run, PreparedJob job, LedgerChunks ledger, Path folder) throws IOException {
        Map<String, String> known = new HashMap<>(run.parameters);
        known.put("run", String.valueOf(run.id));
        return new IssuedFiles(
                        job.plan(), ledger, run.ledgerWrites(), known, formats.outputs(), job.systems()::standing)
                .make(folder);
    }

    /** A file as people see it. */
    static IssuedFileView view(Made made, boolean delivered) {
        Hashes.Content content = Hashes.of(made.content());
        return new IssuedFileView(
                made.write().connection(), made.name(), made.rows(), content.size(), content.hash(), delivered);
    }

    /**
     * Delivers the files of a run that has come to its end. An attempt that is made again finds what it has delivered and
     * leaves it alone.
     */
    RunResult delivered(
            RunEntity run, long epoch, PreparedJob job, LedgerChunks ledger, Path folder, RunResult result) {
        if (result.state() != RunState.FINISHED || run.planning() || !issues(job.plan())) {
            return result;
        }
        List<IssuedFileView> delivered = new ArrayList<>();
        try {
            List<Made> files = made(run, job, ledger, folder);
            if (files.stream().anyMatch(RunIssuing::adds)) {
                deliverAlone(files, job.systems(), delivered);
            } else {
                deliver(files, job.systems(), delivered);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } finally {
            if (!delivered.isEmpty()) {
                facts.noteIssued(run.id, epoch, delivered);
            }
        }
        return result;
    }

    private static boolean adds(Made file) {
        return file.write().issue().filter(Issue::adds).isPresent();
    }

    /** Between the last look at a file that is there and its delivery, no other run of this service adds to one. */
    private void deliverAlone(List<Made> files, JobSystems systems, List<IssuedFileView> delivered) {
        adding.lock();
        try {
            deliver(files, systems, delivered);
        } finally {
            adding.unlock();
        }
    }

    private static void deliver(List<Made> files, JobSystems systems, List<IssuedFileView> delivered) {
        List<Delivery> deliveries =
                files.stream().map(file -> delivery(file, systems)).toList();
        for (Delivery next : deliveries) {
            if (!next.isThere()) {
                next.place().put(next.file().name(), next.file().content());
            }
            delivered.add(next.view());
        }
    }

    /**
     * A file on its way.
     *
     * @param isThere whether the place has it already, with the same content
     */
    private record Delivery(Made file, IssuedFileView view, TakesFiles place, boolean isThere) {}

    /** What is to be delivered, where nothing speaks against it. */
    private static Delivery delivery(Made file, JobSystems systems) {
        TakesFiles place = systems.place(file.write().connection());
        IssuedFileView view = view(file, true);
        Optional<String> there = place.find(file.name()).stream()
                .map(found -> Hashes.of(place.open(found)).hash())
                .findFirst();
        boolean isThere = there.equals(Optional.of(view.hash()));
        boolean replaces = file.write().issue().orElseThrow().replaces();
        if (!isThere && adds(file)) {
            requireUnchanged(file, there, systems);
        } else if (!isThere && !replaces && there.isPresent()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_THERE,
                    file.write().connection() + " already holds another " + file.name() + "; nothing was delivered.",
                    "Move it away, put ${run} into the name, or say if-there: replace. " + TAKEN));
        }
        return new Delivery(file, view, place, isThere);
    }

    /** What others have put into a file in the meantime would be lost. */
    private static void requireUnchanged(Made file, Optional<String> there, JobSystems systems) {
        Optional<String> before = systems.standingHash(
                file.write().connection(), file.write().target().name());
        if (!there.equals(before)) {
            String now = there.isEmpty() ? " is gone" : before.isEmpty() ? " is there now" : " has changed";
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_DIFFERS,
                    "The file " + file.name() + " in " + file.write().connection() + now
                            + " since the run has looked at it; nothing was delivered.",
                    "Start the job again: it adds to the file as it is then. " + TAKEN));
        }
    }
}
