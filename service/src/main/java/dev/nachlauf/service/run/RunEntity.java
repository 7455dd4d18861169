package dev.nachlauf.service.run;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.service.store.Json;
import jakarta.persistence.Convert;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** A run. */
@Entity
@Table(name = "run")
class RunEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "run_seq")
    @SequenceGenerator(name = "run_seq", sequenceName = "run_seq", allocationSize = 1)
    Long id;

    long jobId;
    String jobName;
    int jobVersion;
    String state;
    long epoch;
    boolean stopRequested;
    boolean beyondLimit;
    String note;

    @Nullable
    Instant unreachableSince;

    @Convert(converter = Json.Problems.class)
    List<ProblemView> reasons;

    String writeName;
    String targetConnection;
    String targetRecords;
    String targetDescription;

    @Convert(converter = Json.Words.class)
    List<String> fields;

    @Convert(converter = Json.Words.class)
    List<String> keyFields;

    @Convert(converter = Json.Words.class)
    List<String> header;

    @Convert(converter = Json.WordMap.class)
    Map<String, String> formatOptions;

    String fileHash;
    String fileName;
    long fileSize;

    @Convert(converter = Json.WordMap.class)
    Map<String, String> parameters;

    long rowsRead;
    String startedBy;
    Instant createdAt;

    @Nullable
    Instant startedAt;

    @Nullable
    Instant endedAt;
}
