package dev.nachlauf.service.source;

import dev.nachlauf.api.FileView;
import java.util.Map;

/**
 * One file of a source with its format settled.
 *
 * @param file the kept file
 * @param member the file inside of an archive; the file's own name where it is none
 * @param format the format's word
 * @param options the options in force, with which the file is read again in the same way
 */
public record SourcePart(FileView file, String member, String format, Map<String, String> options) {
    public SourcePart {
        options = Map.copyOf(options);
    }
}
