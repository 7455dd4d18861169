package dev.nachlauf.service.run;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** How far a job has read what changes; moved by finished runs only. */
@Entity
@Table(name = "job_watermark")
class JobWatermark {
    @Id
    Long jobId;

    /** The canonical text of the greatest value seen. */
    String value;

    long runId;
    Instant movedAt;
}
