package dev.nachlauf.api;

import java.time.Instant;

/**
 * Something that somebody did, or was refused.
 *
 * @param who the token's name
 * @param deed what was done, such as "stop run"
 * @param about what it was done to, such as the run's number or the document's name
 * @param status the answer's status; 403 where the role did not allow it
 */
public record ActivityView(long id, Instant at, String who, String deed, String about, int status) {}
