package dev.nachlauf.service.ledger;

import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.record.RowCodec;
import dev.nachlauf.core.run.Chunk;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.service.run.CountColumns;
import dev.nachlauf.service.run.LedgerStage;
import dev.nachlauf.service.store.Json;
import jakarta.persistence.Convert;
import jakarta.persistence.Embedded;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.util.Locale;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;

/** The header of a chunk. */
@Entity
@Table(name = "ledger_chunk")
class ChunkEntity {
    static final String DONE = "done";
    private static final String PENDING = "pending";

    @EmbeddedId
    ChunkId id;

    short version;
    long firstRow;
    long lastRow;

    /** How many rows came to the batches before it, and how many it holds; 0 in chunks of earlier versions. */
    long startRow;

    int rowCount;
    String state;

    /** How each connection is asked whether the batch was committed, by its number. */
    @Convert(converter = Json.WordMap.class)
    Map<String, String> tokens;

    @Convert(converter = Json.NumberMap.class)
    Map<String, Long> fieldCounts;

    @Convert(converter = Json.Tallies.class)
    Tally tally;

    @Embedded
    CountColumns counts;

    /** For Hibernate. */
    protected ChunkEntity() {}

    ChunkEntity(long run, LedgerStage stage, Chunk.Head head) {
        id = ChunkId.of(run, stage, head.batch());
        version = RowCodec.VERSION;
        firstRow = head.firstRow();
        lastRow = head.lastRow();
        startRow = head.range().start();
        rowCount = head.range().rows();
        state = head.state().name().toLowerCase(Locale.ROOT);
        tokens = new TreeMap<>();
        head.tokens().forEach((connection, token) -> tokens.put(connection.toString(), token.text()));
        fieldCounts = head.fieldCounts();
        tally = head.tally();
        counts = new CountColumns(head.counts());
    }

    boolean isDone() {
        return state.equals(DONE);
    }

    /** Whether its lines say what became of the rows, or what is planned for them. */
    boolean isKnown() {
        return !state.equals(PENDING);
    }

    Chunk.Head head() {
        SortedMap<Integer, Token> asked = new TreeMap<>();
        tokens.forEach((connection, token) -> asked.put(Integer.valueOf(connection), new Token(token)));
        return new Chunk.Head(
                id.batch(),
                new Chunk.Range(firstRow, lastRow, startRow, rowCount),
                counts.counts(),
                tally,
                fieldCounts,
                asked,
                Chunk.State.valueOf(state.toUpperCase(Locale.ROOT)));
    }
}
