package dev.nachlauf.service.retention;

import java.time.Duration;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * How long things are kept.
 *
 * @param files what runs have read, from the end of the last run that read it
 * @param ledger the lines of a run's ledger, from its end
 * @param uploads files that no run has read, from their last use
 */
@ConfigurationProperties("nachlauf.keep")
public record RetentionSettings(Duration files, Duration ledger, Duration uploads) {}
