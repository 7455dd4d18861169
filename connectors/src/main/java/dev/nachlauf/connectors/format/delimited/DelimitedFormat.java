package dev.nachlauf.connectors.format.delimited;

import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.SourceFormat;
import java.io.InputStream;
import java.util.List;
import java.util.Map;

/** Delimited text: fields with a delimiter between them, a row per line, quotes around what holds either. */
public final class DelimitedFormat implements SourceFormat {
    static final String DELIMITER = "delimiter";
    static final String QUOTE = "quote";
    static final String ENCODING = "encoding";
    static final String HEADER_ROW = "header-row";

    @Override
    public String name() {
        return "delimited";
    }

    @Override
    public List<Setting> options() {
        return List.of(
                Setting.optional(DELIMITER, "one character, or tab"),
                Setting.optional(QUOTE, "one character"),
                Setting.optional(ENCODING, "utf-8, utf-16, windows-1252, iso-8859-1 and others"),
                Setting.optional(HEADER_ROW, "the line with the names, from 1; 0 where there is none"));
    }

    @Override
    public SourceReader read(String file, InputStream bytes, Map<String, String> options) {
        return DelimitedReader.open(file, bytes, options);
    }
}
