package dev.nachlauf.contract;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.Chunk;
import dev.nachlauf.core.run.ChunkCodec;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.Reject;
import dev.nachlauf.core.run.RunRecords;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** Keeps what a run keeps, in memory. */
final class Kept implements RunRecords {
    final Map<Integer, Chunk> chunks = new TreeMap<>();
    final List<Reject> rejects = new ArrayList<>();
    final List<Reject> foreseen = new ArrayList<>();
    final Map<String, String> identities = new TreeMap<>();
    final Map<String, List<String>> sessions = new TreeMap<>();
    Path shaped;
    int failAt = -1;

    @Override
    public synchronized List<Chunk.Head> chunks() {
        return chunks.values().stream().map(Chunk::head).toList();
    }

    @Override
    public synchronized Chunk chunk(int batch) {
        return chunks.get(batch);
    }

    @Override
    public synchronized void save(Chunk chunk, List<Integer> settled) {
        if (chunk.head().batch() == failAt) {
            throw new CannotGoOn(Problem.of(ProblemCode.UNREACHABLE, "The ledger can't be reached.", ""));
        }
        chunks.put(chunk.head().batch(), chunk);
        settled(settled);
        switch (chunk.head().state()) {
            case DONE -> rejects.addAll(ChunkCodec.rejects(chunk.rejects()));
            case PLANNED -> foreseen.addAll(ChunkCodec.rejects(chunk.rejects()));
            case PENDING -> {
                // visible once it is settled
            }
        }
    }

    @Override
    public synchronized void settled(List<Integer> batches) {
        for (int batch : batches) {
            Chunk chunk = chunks.get(batch);
            Chunk.Head done = chunk.head().in(Chunk.State.DONE);
            chunks.put(batch, new Chunk(done, chunk.rows(), chunk.rejects()));
            rejects.addAll(ChunkCodec.rejects(chunk.rejects()));
        }
    }

    @Override
    public synchronized void drop(int batch) {
        chunks.remove(batch);
    }

    @Override
    public synchronized void replace(Chunk chunk) {
        drop(chunk.head().batch());
        save(chunk, List.of());
    }

    /** As an earlier version kept them, which did not say how many rows a batch holds. */
    void forgetRows() {
        chunks.replaceAll((batch, chunk) -> {
            Chunk.Head head = chunk.head();
            Chunk.Range range = new Chunk.Range(head.firstRow(), head.lastRow(), 0, 0);
            return new Chunk(
                    new Chunk.Head(
                            batch, range, head.counts(), head.tally(), head.fieldCounts(), head.tokens(), head.state()),
                    chunk.rows(),
                    chunk.rejects());
        });
    }

    @Override
    public synchronized Optional<Path> shaped() {
        return Optional.ofNullable(shaped);
    }

    @Override
    public synchronized void adopt(Path file) {
        shaped = file;
    }

    @Override
    public synchronized void foresee(List<Reject> rejects) {
        foreseen.clear();
        foreseen.addAll(rejects);
    }

    @Override
    public synchronized Map<String, String> identities() {
        return Map.copyOf(identities);
    }

    @Override
    public synchronized void identify(String connection, String identity) {
        identities.put(connection, identity);
    }

    @Override
    public synchronized Map<String, List<String>> sessions() {
        return Map.copyOf(sessions);
    }

    @Override
    public synchronized void openedSessions(Map<String, List<String>> opened) {
        sessions.clear();
        opened.forEach((connection, names) -> sessions.put(connection, List.copyOf(names)));
    }

    /** The lines of the ledger; the key and the fields are as wide as the widest write. */
    List<LedgerRow> rows(int keyWidth, int fields) {
        return chunks.values().stream()
                .flatMap(chunk -> ChunkCodec.rows(chunk.rows(), keyWidth, fields).stream())
                .toList();
    }
}
