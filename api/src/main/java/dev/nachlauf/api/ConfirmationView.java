package dev.nachlauf.api;

import java.util.List;

/**
 * What a run has issued, compared with an export of the system that has it now.
 *
 * @param export the name of the export
 * @param issued how many rows were issued
 * @param confirmed those that the export has, with the same values in all fields that both have
 * @param missing those that the export doesn't have
 * @param others rows of the export that were not issued by this run
 * @param differences the first thousand rows that differ or are missing; {@code found} is {@code differs}, {@code missing}
 *     or {@code several}, and {@code written} what was issued
 */
public record ConfirmationView(
        long run,
        String export,
        long issued,
        long confirmed,
        long differs,
        long missing,
        long others,
        List<VerificationView.Difference> differences) {}
