package dev.nachlauf.service.ledger;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.Chunk;
import dev.nachlauf.core.run.ChunkCodec;
import dev.nachlauf.core.run.Reject;
import dev.nachlauf.core.run.RunRecords;
import dev.nachlauf.service.run.LedgerStage;
import dev.nachlauf.service.run.RunFence;
import dev.nachlauf.service.run.RunNotes;
import dev.nachlauf.service.run.RunSums;
import dev.nachlauf.service.store.Hashes;
import jakarta.persistence.EntityManager;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataAccessException;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;

/** What one run keeps, for the process that owns its epoch. */
final class LedgerRecords implements RunRecords {
    private final long run;
    private final long epoch;
    private final RunNotes notes;
    private final LedgerStage stage;
    private @Nullable Path shaped;
    private final RunFence fence;
    private final EntityManager entities;
    private final RejectSink rejects;
    private final TransactionTemplate transactions;

    LedgerRecords(
            RunNotes notes,
            LedgerStage stage,
            RunFence fence,
            EntityManager entities,
            RejectSink rejects,
            TransactionTemplate transactions) {
        this.run = notes.run();
        this.epoch = notes.epoch();
        this.notes = notes;
        this.stage = stage;
        this.fence = fence;
        this.entities = entities;
        this.rejects = rejects;
        this.transactions = transactions;
    }

    @Override
    public List<Chunk.Head> chunks() {
        return owned(() ->
                heads(entities, run, stage, 0).stream().map(ChunkEntity::head).toList());
    }

    /** The headers of a stage of a run from a batch on, in order. */
    static List<ChunkEntity> heads(EntityManager entities, long run, LedgerStage stage, long from) {
        return entities.createQuery(
                        "select c from ChunkEntity c where c.id.runId = :run and c.id.stage = :stage"
                                + " and c.id.batch >= :from order by c.id.batch",
                        ChunkEntity.class)
                .setParameter("run", run)
                .setParameter("stage", stage.number())
                .setParameter("from", (int) Math.min(from, Integer.MAX_VALUE))
                .getResultList();
    }

    @Override
    public Chunk chunk(int batch) {
        return owned(() -> {
            ChunkId id = ChunkId.of(run, stage, batch);
            PayloadEntity payload = payload(id);
            return new Chunk(entities.find(ChunkEntity.class, id).head(), payload.rows, payload.rejects);
        });
    }

    private PayloadEntity payload(ChunkId id) {
        return Objects.requireNonNull(entities.find(PayloadEntity.class, id), "a chunk has a payload");
    }

    @Override
    public void save(Chunk chunk, List<Integer> settled) {
        owned(() -> {
            RunSums before = sums();
            long visible = add(chunk);
            note(before.plus(chunk.head()), settled, visible);
            if (!settled.isEmpty() || chunk.head().state() == Chunk.State.DONE) {
                fence.moved(run, epoch);
            }
            return run;
        });
    }

    /** Keeps a chunk; the answer is how many rejects became visible. */
    private long add(Chunk chunk) {
        ChunkEntity head = new ChunkEntity(run, stage, chunk.head());
        entities.persist(head);
        entities.persist(new PayloadEntity(head.id, chunk.rows(), chunk.rejects()));
        if (!chunk.head().hasRejects()) {
            return 0;
        }
        return switch (chunk.head().state()) {
            case DONE -> publish(chunk.rejects());
            case PENDING -> 0;
            case PLANNED -> {
                notes.foreseen(rejects.foreseeMore(run, ChunkCodec.rejects(chunk.rejects())));
                yield 0;
            }
        };
    }

    @Override
    public void settled(List<Integer> batches) {
        owned(() -> {
            note(sums(), batches, 0);
            fence.moved(run, epoch);
            return run;
        });
    }

    /** Marks batches as done and notes what the ledger adds up to then. */
    private void note(RunSums before, List<Integer> settled, long visibleBefore) {
        RunSums sums = before;
        long visible = visibleBefore;
        for (int batch : settled) {
            ChunkEntity chunk = entities.find(ChunkEntity.class, ChunkId.of(run, stage, batch));
            if (!chunk.isDone()) {
                chunk.state = ChunkEntity.DONE;
                sums = sums.settled(chunk.head());
                visible += chunk.head().hasRejects() ? publish(payload(chunk.id).rejects) : 0;
            }
        }
        notes.sums(sums, visible);
    }

    /** What the ledger adds up to; runs of earlier versions begin to keep it here. */
    private RunSums sums() {
        return notes.sums().orElseGet(this::summed);
    }

    private RunSums summed() {
        return RunSums.of(
                heads(entities, run, stage, 0).stream().map(ChunkEntity::head).toList());
    }

    /** Makes rejects visible; the answer is how many. */
    private long publish(byte[] packed) {
        List<Reject> visible = ChunkCodec.rejects(packed);
        rejects.add(run, visible);
        return visible.size();
    }

    @Override
    public void drop(int batch) {
        owned(() -> {
            remove(batch);
            notes.sums(summed(), 0);
            return run;
        });
    }

    private void remove(int batch) {
        ChunkId id = ChunkId.of(run, stage, batch);
        entities.remove(entities.find(ChunkEntity.class, id));
        entities.remove(payload(id));
    }

    @Override
    public void replace(Chunk chunk) {
        owned(() -> {
            ChunkId id = ChunkId.of(run, stage, chunk.head().batch());
            Chunk.Head before = entities.find(ChunkEntity.class, id).head();
            if (before.state() != Chunk.State.PENDING) {
                throw new IllegalStateException("only a batch in doubt is told otherwise");
            }
            RunSums sums = sums();
            remove(chunk.head().batch());
            // the new chunk has the old one's id
            entities.flush();
            long visible = add(chunk);
            notes.sums(sums.replaced(before, chunk.head()), visible);
            if (chunk.head().state() == Chunk.State.DONE) {
                fence.moved(run, epoch);
            }
            return run;
        });
    }

    /** Large files are read outside of the transaction, and once an attempt. */
    @Override
    public Optional<Path> shaped() {
        if (shaped != null) {
            return Optional.of(shaped);
        }
        Optional<RunNotes.Adopted> adopted = owned(notes::adopted);
        boolean whole = adopted.isPresent()
                && Files.isRegularFile(adopted.get().file())
                && Hashes.of(adopted.get().file()).equals(adopted.get().content());
        if (whole) {
            shaped = adopted.get().file();
            return Optional.of(shaped);
        }
        if (!chunks().isEmpty()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_MISSING,
                    "What the steps made of the rows is no longer as it was when the first batches were written.",
                    "What was written stands in the ledger; start the job again."));
        }
        return Optional.empty();
    }

    @Override
    public void adopt(Path file) {
        Hashes.Content content = Hashes.of(file);
        owned(() -> {
            notes.adopt(content);
            return run;
        });
        shaped = file;
    }

    @Override
    public void foresee(List<Reject> foreseen) {
        owned(() -> {
            rejects.foresee(run, foreseen);
            notes.foreseen(foreseen.size());
            return run;
        });
    }

    @Override
    public Map<String, String> identities() {
        return owned(notes::identities);
    }

    @Override
    public void identify(String connection, String identity) {
        owned(() -> {
            notes.identify(connection, identity);
            return run;
        });
    }

    @Override
    public Map<String, List<String>> sessions() {
        return owned(notes::sessions);
    }

    @Override
    public void openedSessions(Map<String, List<String>> sessions) {
        owned(() -> {
            notes.sessions(sessions);
            return run;
        });
    }

    /** Everything is done under the fence; a database that is gone is worth another attempt later. */
    private <T> T owned(Supplier<T> work) {
        try {
            return Objects.requireNonNull(transactions.execute(status -> {
                fence.hold(run, epoch);
                return work.get();
            }));
        } catch (DataIntegrityViolationException e) {
            // not a question of reaching it: trying again would not help
            throw new IllegalStateException("the ledger refuses what a run wants to keep", e);
        } catch (DataAccessException | TransactionException e) {
            throw new CannotGoOn(
                    Problem.of(
                            ProblemCode.UNREACHABLE,
                            "The service's own database can't be reached.",
                            "The run goes on by itself when it is back."),
                    e);
        }
    }
}
