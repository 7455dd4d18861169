package dev.nachlauf.service.run;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.time.Instant;

/** A file that a finished run of a job has loaded in an environment, known by its content. */
@Entity
@Table(name = "taken_file")
class TakenFile {
    @EmbeddedId
    Id id;

    long runId;
    Instant takenAt;

    @Embeddable
    record Id(
            @Column(name = "job_id") long jobId,
            @Column(name = "environment") String environment,
            @Column(name = "hash") String hash) {}
}
