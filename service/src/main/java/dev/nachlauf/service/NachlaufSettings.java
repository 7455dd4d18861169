package dev.nachlauf.service;

import java.nio.file.Path;
import java.time.Duration;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * What an installation sets.
 *
 * @param home the folder of the file store and of scratch space
 * @param patience how long a run waits for a target that can't be reached
 * @param pauseAt a point of a batch's life at which to stand still, such as {@code before-ledger:2}; empty for none
 */
@ConfigurationProperties("nachlauf")
public record NachlaufSettings(Path home, Duration patience, String pauseAt) {}
