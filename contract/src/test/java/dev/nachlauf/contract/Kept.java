package dev.nachlauf.contract;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.Chunk;
import dev.nachlauf.core.run.ChunkCodec;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.Reject;
import dev.nachlauf.core.run.RunRecords;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Keeps what a run keeps, in memory. */
final class Kept implements RunRecords {
    final Map<Integer, Chunk> chunks = new TreeMap<>();
    final List<Reject> rejects = new ArrayList<>();
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
        if (chunk.head().state() == Chunk.State.DONE) {
            rejects.addAll(ChunkCodec.rejects(chunk.rejects()));
        }
    }

    @Override
    public synchronized void settled(List<Integer> batches) {
        for (int batch : batches) {
            Chunk chunk = chunks.get(batch);
            Chunk.Head head = chunk.head();
            Chunk.Head done = new Chunk.Head(
                    head.batch(),
                    head.firstRow(),
                    head.lastRow(),
                    head.counts(),
                    head.tally(),
                    head.fieldCounts(),
                    head.tokens(),
                    Chunk.State.DONE);
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

    /** The lines of the ledger; the key and the fields are as wide as the widest write. */
    List<LedgerRow> rows(int keyWidth, int fields) {
        return chunks.values().stream()
                .flatMap(chunk -> ChunkCodec.rows(chunk.rows(), keyWidth, fields).stream())
                .toList();
    }
}
