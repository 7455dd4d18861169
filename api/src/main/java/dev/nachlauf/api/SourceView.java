package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a source looks like.
 *
 * @param files the files that it consists of; several where an archive holds several
 * @param format the format's word, and {@code formatEvidence} what it was concluded from
 * @param options the format's options in force
 * @param whole whether the sample is the whole source
 * @param lacks parts that lack some of the fields, in sentences
 * @param failures why nothing more could be read; empty where all is well
 * @param read the part of a job file that reads this source in this way
 */
public record SourceView(
        String name,
        List<PartView> files,
        String format,
        double formatConfidence,
        String formatEvidence,
        List<OptionView> options,
        List<SourceFieldView> fields,
        List<SourceRowView> rows,
        long sampled,
        boolean whole,
        List<String> lacks,
        List<ProblemView> failures,
        String read) {
    /** A file of the source; size in bytes, hash SHA-256 in hex. */
    public record PartView(String name, String member, String hash, long size, String format) {}

    /**
     * An option of the format.
     *
     * @param confidence from 0 to 1
     * @param evidence what it was concluded from
     * @param settable whether a job can state it
     */
    public record OptionView(String option, String value, double confidence, String evidence, boolean settable) {}

    /**
     * A field.
     *
     * @param address where its values stand relative to a row
     * @param pattern for dates and times
     * @param locale for numbers
     * @param confidence from 0 to 1
     * @param evidence what the kind was concluded from
     * @param question what has to be asked because the sample fits several readings; empty otherwise
     */
    public record SourceFieldView(
            String name,
            String address,
            String kind,
            @Nullable String pattern,
            @Nullable String locale,
            double confidence,
            String evidence,
            String question) {}

    /**
     * A row.
     *
     * @param place where it stands, for people
     * @param raw the cells as they are written
     * @param values the cells as they are read, in canonical text; null also where a cell can't be read
     * @param wrong what can't be read, or what the reader found wrong with the row
     */
    public record SourceRowView(
            long row,
            String place,
            List<@Nullable String> raw,
            List<@Nullable String> values,
            List<ProblemView> wrong) {}
}
