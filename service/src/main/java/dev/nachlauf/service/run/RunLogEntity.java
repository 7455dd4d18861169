package dev.nachlauf.service.run;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** A line of a run's log. */
@Entity
@Table(name = "run_log")
class RunLogEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    long id;

    long runId;
    Instant at;
    String text;
}
