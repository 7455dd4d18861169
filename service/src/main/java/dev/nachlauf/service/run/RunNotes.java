package dev.nachlauf.service.run;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.run.RunTransitions.Fact;
import dev.nachlauf.service.store.Hashes;
import dev.nachlauf.service.store.Json;
import jakarta.persistence.EntityManager;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * What one attempt notes in its run beside the ledger, and finds there of earlier ones. Used in transactions that hold
 * the run.
 */
public final class RunNotes {
    private final long run;
    private final long epoch;
    private final RunTransitions transitions;
    private final EntityManager entities;
    private final RunScratch scratch;
    private @Nullable Path checked;

    RunNotes(long run, long epoch, RunTransitions transitions, EntityManager entities, RunScratch scratch) {
        this.run = run;
        this.epoch = epoch;
        this.transitions = transitions;
        this.entities = entities;
        this.scratch = scratch;
    }

    public long run() {
        return run;
    }

    public long epoch() {
        return epoch;
    }

    /**
     * What the steps made of the rows; checked by its hash the first time it is asked for.
     *
     * @param written whether batches were written from it, so that it can't be made anew
     * @throws CannotGoOn where it was changed or is gone, and batches were written from it
     */
    public Optional<Path> shaped(boolean written) {
        if (checked != null) {
            return Optional.of(checked);
        }
        Object[] row = (Object[])
                entities.createNativeQuery("SELECT shaped_epoch, shaped_hash, shaped_size FROM run WHERE id = :id")
                        .setParameter("id", run)
                        .getSingleResult();
        Path file = row[0] == null ? null : scratch.shaped(run, ((Number) row[0]).longValue());
        if (file != null && Files.isRegularFile(file)) {
            Hashes.Content content = Hashes.of(file);
            if (content.hash().equals(row[1]) && content.size() == ((Number) row[2]).longValue()) {
                checked = file;
                return Optional.of(file);
            }
        }
        if (written) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_MISSING,
                    "What the steps made of the rows is no longer as it was when the first batches were written.",
                    "What was written stands in the ledger; start the job again."));
        }
        return Optional.empty();
    }

    /** Notes a file of this attempt as what the steps made of the rows. */
    public void adopt(Path file) {
        Hashes.Content content = Hashes.of(file);
        transitions.note(run, epoch, Fact.SHAPED_EPOCH, epoch);
        transitions.note(run, epoch, Fact.SHAPED_HASH, content.hash());
        transitions.note(run, epoch, Fact.SHAPED_SIZE, content.size());
        checked = file;
    }

    /** What each connection was when the run wrote to it first. */
    public Map<String, String> identities() {
        return Json.wordMap(text("identities"));
    }

    public void identify(String connection, String identity) {
        Map<String, String> identities = new TreeMap<>(identities());
        identities.put(connection, identity);
        transitions.note(run, epoch, Fact.IDENTITIES, Json.write(identities));
    }

    /** The sessions that attempts have opened, by connection. */
    public Map<String, List<String>> sessions() {
        return Json.wordLists(text("sessions"));
    }

    public void sessions(Map<String, List<String>> opened) {
        transitions.note(run, epoch, Fact.SESSIONS, Json.write(opened));
    }

    private String text(String column) {
        return String.valueOf(entities.createNativeQuery("SELECT " + column + " FROM run WHERE id = :id")
                .setParameter("id", run)
                .getSingleResult());
    }
}
