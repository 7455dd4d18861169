package dev.nachlauf.service.run;

import dev.nachlauf.service.run.RunFacts.Fact;
import dev.nachlauf.service.store.Hashes;
import dev.nachlauf.service.store.Json;
import jakarta.persistence.EntityManager;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * What one attempt notes in its run beside the ledger, and finds there of earlier ones. Used in transactions that hold
 * the run.
 */
public final class RunNotes {
    private final long run;
    private final long epoch;
    private final RunFacts facts;
    private final EntityManager entities;
    private final RunScratch scratch;

    RunNotes(long run, long epoch, RunFacts facts, EntityManager entities, RunScratch scratch) {
        this.run = run;
        this.epoch = epoch;
        this.facts = facts;
        this.entities = entities;
        this.scratch = scratch;
    }

    public long run() {
        return run;
    }

    public long epoch() {
        return epoch;
    }

    /** A file that an attempt has adopted, and what it held then. */
    public record Adopted(Path file, Hashes.Content content) {}

    /** What the steps made of the rows, as it was noted; empty where nothing was. */
    public Optional<Adopted> adopted() {
        Object[] row = (Object[])
                entities.createNativeQuery("SELECT shaped_epoch, shaped_hash, shaped_size FROM run WHERE id = :id")
                        .setParameter("id", run)
                        .getSingleResult();
        if (row[0] == null) {
            return Optional.empty();
        }
        Path file = scratch.shaped(run, ((Number) row[0]).longValue());
        return Optional.of(
                new Adopted(file, new Hashes.Content(String.valueOf(row[1]), ((Number) row[2]).longValue())));
    }

    /** Notes a file of this attempt as what the steps made of the rows. */
    public void adopt(Hashes.Content content) {
        facts.note(run, epoch, Fact.SHAPED_EPOCH, epoch);
        facts.note(run, epoch, Fact.SHAPED_HASH, content.hash());
        facts.note(run, epoch, Fact.SHAPED_SIZE, content.size());
    }

    /** What each connection was when the run wrote to it first. */
    public Map<String, String> identities() {
        return Json.wordMap(text("identities"));
    }

    public void identify(String connection, String identity) {
        Map<String, String> identities = new TreeMap<>(identities());
        identities.put(connection, identity);
        facts.note(run, epoch, Fact.IDENTITIES, Json.write(identities));
    }

    /** The sessions that attempts have opened, by connection. */
    public Map<String, List<String>> sessions() {
        return Json.wordLists(text("sessions"));
    }

    public void sessions(Map<String, List<String>> opened) {
        facts.note(run, epoch, Fact.SESSIONS, Json.write(opened));
    }

    /** What the ledger adds up to, as it was noted; empty in runs of earlier versions. */
    public Optional<RunSums> sums() {
        Object[] row =
                (Object[]) entities.createNativeQuery("SELECT totals, tally, changed_fields FROM run WHERE id = :id")
                        .setParameter("id", run)
                        .getSingleResult();
        return Optional.ofNullable(row[0])
                .map(totals -> new RunSums(
                        RunTotals.Text.totals(String.valueOf(totals)),
                        Json.readTally(String.valueOf(row[1])),
                        Json.numberMap(String.valueOf(row[2]))));
    }

    /** Notes what the ledger adds up to now, and how many rejects became visible with it. */
    public void sums(RunSums sums, long rejects) {
        facts.note(run, epoch, sums, rejects);
    }

    /** Notes how many rejects are shown of rows that a held run has not written. */
    public void foreseen(long rejects) {
        facts.note(run, epoch, Fact.FORESEEN_REJECTS, rejects);
    }

    private String text(String column) {
        return String.valueOf(entities.createNativeQuery("SELECT " + column + " FROM run WHERE id = :id")
                .setParameter("id", run)
                .getSingleResult());
    }
}
