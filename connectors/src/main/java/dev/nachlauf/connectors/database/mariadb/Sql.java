package dev.nachlauf.connectors.database.mariadb;

import java.util.Collection;
import java.util.stream.Collectors;

/** Pieces of SQL. */
final class Sql {
    private Sql() {}

    /** The one place that quotes an identifier. */
    static String name(String identifier) {
        if (identifier.indexOf('\0') >= 0) {
            throw new IllegalArgumentException("an identifier can't hold NUL");
        }
        return '`' + identifier.replace("`", "``") + '`';
    }

    /** Identifiers, joined by commas. */
    static String names(Collection<String> identifiers) {
        return identifiers.stream().map(Sql::name).collect(Collectors.joining(", "));
    }
}
