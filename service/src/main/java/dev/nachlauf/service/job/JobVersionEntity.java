package dev.nachlauf.service.job;

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

/** One version of a job. */
@Entity
@Table(name = "job_version")
class JobVersionEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "job_version_seq")
    @SequenceGenerator(name = "job_version_seq", sequenceName = "job_version_seq", allocationSize = 1)
    Long id;

    long jobId;
    int number;
    String title;
    String notes;
    String document;
    boolean draft;

    @Convert(converter = Json.Problems.class)
    List<ProblemView> problems;

    Instant savedAt;
    String savedBy;
}
