package dev.nachlauf.core.run;

import java.util.List;

/** The chunks of a ledger, to be read. */
public interface LedgerChunks {
    /** The heads of all chunks, by batch. */
    List<Chunk.Head> chunks();

    /** A whole chunk. */
    Chunk chunk(int batch);
}
