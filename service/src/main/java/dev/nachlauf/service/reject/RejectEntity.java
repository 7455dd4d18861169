package dev.nachlauf.service.reject;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.service.store.Json;
import jakarta.persistence.Convert;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** A reject. {@code code} and {@code field} are those of its first problem, for grouping. */
@Entity
@Table(name = "reject")
class RejectEntity {
    @Id
    Long id;

    long runId;
    long rowNumber;
    /** Tells the rejects of a run apart. */
    long position;

    /** How many rows of the source it stands for. */
    long rows;

    long line;
    String file;
    String sheet;
    String path;
    String key;

    @Convert(converter = Json.Words.class)
    List<@Nullable String> raw;

    @Convert(converter = Json.Problems.class)
    List<ProblemView> problems;

    String code;
    String field;
    String state;
    /** Whether the target refused it though no check stood against it. */
    boolean byTarget;

    /** How often the row was rejected. */
    int attempts = 1;

    /** What is to stand in a cell when the row is sent again, by the name of its column. */
    @Convert(converter = Json.WordMap.class)
    Map<String, String> corrections = Map.of();

    /** Counts what was decided about it, and its attempts. */
    int edition;

    String note = "";
    String decidedBy = "";

    @Nullable
    Instant decidedAt;

    /** The run that sends the row again at this moment. */
    @Nullable
    Long sentBy;

    /** The run that has rejected the row last; null where that is its own. */
    @Nullable
    Long againIn;

    /** The run with which the row has gone through. */
    @Nullable
    Long closedBy;

    Instant createdAt;
}
