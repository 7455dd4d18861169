package dev.nachlauf.service.run;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.time.Instant;

/** How far a job has read what changes in an environment; moved by finished runs only. */
@Entity
@Table(name = "job_watermark")
class JobWatermark {
    @EmbeddedId
    Id id;

    /** The canonical text of the greatest value seen. */
    String value;

    long runId;
    Instant movedAt;

    @Embeddable
    record Id(
            @Column(name = "job_id") long jobId,
            @Column(name = "environment") String environment) {}
}
