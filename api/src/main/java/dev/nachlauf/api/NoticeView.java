package dev.nachlauf.api;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What somebody was told of a run, or is to be told.
 *
 * @param connection over which it is told
 * @param receivers as the job names them; empty where the connection knows them
 * @param occasions what became of the run: {@code failed}, {@code held}, {@code rejects} or {@code recovered}
 * @param state {@code wanted}, {@code sent} or {@code failed}
 * @param note what the receiver has answered, or why nobody was told; empty before the first try
 * @param tries how often it was tried
 * @param due when it is tried next; null where it isn't
 * @param at when it came up
 * @param toldAt null where nobody was told yet
 */
public record NoticeView(
        long id,
        String connection,
        List<String> receivers,
        List<String> occasions,
        String state,
        String note,
        int tries,
        @Nullable Instant due,
        Instant at,
        @Nullable Instant toldAt) {}
