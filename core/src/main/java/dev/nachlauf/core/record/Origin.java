package dev.nachlauf.core.record;

import java.util.Map;

/**
 * Where a row stands in its source.
 *
 * @param file the file's name, or the records that were read
 * @param sheet the sheet's name; empty where the source has no sheets
 * @param line the line of the text or the row of the sheet, from 1
 * @param path JSON pointer (RFC 6901) or XML path of the record; words such as {@code record 5} where the source has
 *     neither lines nor paths; empty where the line says all
 * @param addresses of fields by name, where they are others in this part of the source than in its first part
 */
public record Origin(String file, String sheet, long line, String path, Map<String, String> addresses) {
    /** That of a record that the source no longer has. */
    public static final Origin NOWHERE = line("", 0);

    /** A place in a source whose parts are alike. */
    public Origin(String file, String sheet, long line, String path) {
        this(file, sheet, line, path, Map.of());
    }

    /** This place in a part with addresses of its own. */
    public Origin within(Map<String, String> part) {
        return new Origin(file, sheet, line, path, part);
    }

    /** The place of a row in a text file. */
    public static Origin line(String file, long line) {
        return new Origin(file, "", line, "");
    }

    /** The row's place for people. */
    public String text() {
        if (equals(NOWHERE)) {
            return "not in the source";
        }
        if (!sheet.isEmpty()) {
            return file + ", " + sheet + ", row " + line;
        }
        if (isWords()) {
            return file + ", " + path;
        }
        return path.isEmpty() ? file + ", line " + line : file + ", line " + line + ", " + path;
    }

    private boolean isWords() {
        return !path.isEmpty() && !path.startsWith("/");
    }

    /** The place of one of the row's values for people. */
    public String text(SourceField field) {
        String address = addresses.getOrDefault(field.name(), field.address());
        if (!sheet.isEmpty()) {
            return file + ", " + sheet + "!" + address + line;
        }
        if (isWords()) {
            return text() + (address.isEmpty() ? "" : ", " + address);
        }
        if (!path.isEmpty() || address.startsWith("/")) {
            return file + ", line " + line + ", " + resolved(address);
        }
        return file + ", line " + line + (address.isEmpty() ? "" : ", " + address);
    }

    /** An address may lead up to the records around this one: each leading {@code ../} drops a part of the path. */
    private String resolved(String address) {
        String base = path;
        String rest = address;
        while (rest.startsWith("../")) {
            base = base.substring(0, Math.max(0, base.lastIndexOf('/')));
            rest = rest.substring("../".length());
        }
        return rest.startsWith("/") || rest.isEmpty() ? base + rest : base + "/" + rest;
    }
}
