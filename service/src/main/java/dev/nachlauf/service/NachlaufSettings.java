package dev.nachlauf.service;

import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * What an installation sets.
 *
 * @param home the folder of the file store and of scratch space
 * @param hosts the names by which the service is called where it is reached from other machines
 * @param folders connections may read folders below these
 * @param reaches connections may reach these hosts, such as {@code register.huts.example} or {@code *.huts.example}; any
 *     where it is empty
 * @param patience how long a run waits for a target that can't be reached
 * @param heartbeat how often a process shows that it is alive; after four that it missed, others take its runs over
 * @param askAgain how long until a target is asked again about rows in doubt of a run that has ended
 * @param endPatience how long runs may go on when the process ends, before they are broken off
 * @param heldFor how long a held run waits for a person before it is discarded
 * @param lookDeadline how long a look may take
 * @param batchRows most rows of a batch, for runs that are started from now on
 * @param pauseAt points of a job's batches at which to stand still, such as {@code stays/before-ledger:2}
 */
@ConfigurationProperties("nachlauf")
public record NachlaufSettings(
        Path home,
        List<String> hosts,
        List<Path> folders,
        List<String> reaches,
        Duration patience,
        Duration heartbeat,
        Duration askAgain,
        Duration endPatience,
        Duration heldFor,
        Duration lookDeadline,
        int batchRows,
        Set<String> pauseAt) {}
