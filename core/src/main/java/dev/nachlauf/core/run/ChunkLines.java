package dev.nachlauf.core.run;

import dev.nachlauf.core.system.Cells;
import java.util.List;

/**
 * The ledger of a batch, unpacked.
 *
 * @param cells how the target of each write spelled its records
 */
record ChunkLines(Chunk.Head head, List<Cells> cells, List<LedgerRow> rows, List<Reject> rejects) {}
