package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Sends rejected rows of a run again.
 *
 * @param ids only these rejects; null for all that are open
 * @param file the hash of an uploaded workbook of rejects; what was mended in it counts as corrections, and only the rejects
 *     in it are sent; null for none
 * @param fileName the workbook's name for people
 * @param jobVersion the version of the job through which they go; null for the newest, or the one promoted where live
 */
public record ResubmitRejects(
        @Nullable List<Long> ids,
        @Nullable String file,
        @Nullable String fileName,
        @Nullable Integer jobVersion) {
    /** Without a workbook, through the version that is in force. */
    public ResubmitRejects(@Nullable List<Long> ids) {
        this(ids, null, null, null);
    }
}
