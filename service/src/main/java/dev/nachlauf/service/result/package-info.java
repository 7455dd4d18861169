/**
 * The results of a run in the shape of its source: the very file that was read, with what became of each row beside it. The
 * ledger and the rejects are brought into the order of the source on disk ({@code RowResults}); the source is read once
 * more, so every row has an outcome, also one that went into another row or was never reached. The format of the file
 * writes them into a copy of it; a source that can't be given back so becomes a table ({@code ResultFiles} decides).
 */
@NullMarked
package dev.nachlauf.service.result;

import org.jspecify.annotations.NullMarked;
