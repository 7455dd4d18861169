package dev.nachlauf.service.job;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import java.time.Instant;

/** A version of a job was made the one that runs in an environment. */
@Entity
@Table(name = "job_promotion")
class PromotionEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "job_promotion")
    @SequenceGenerator(name = "job_promotion", sequenceName = "job_promotion_seq", allocationSize = 1)
    Long id;

    long jobId;
    String environment;
    int version;
    String note;
    Instant promotedAt;
    String promotedBy;
}
