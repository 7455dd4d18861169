package dev.nachlauf.api;

import java.time.Instant;

/**
 * A link that opens the console once.
 *
 * @param path to be put behind the service's address; what stands behind its # is never sent with a request for a page
 */
public record SessionLink(String path, Instant expiresAt) {}
