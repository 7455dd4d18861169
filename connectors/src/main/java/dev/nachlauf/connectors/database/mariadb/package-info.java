/**
 * A MariaDB database: tables, views and queries to read from, tables to write to. Start at {@link
 * dev.nachlauf.connectors.database.mariadb.MariadbType}; how a table is written is told by {@link
 * dev.nachlauf.connectors.database.mariadb.MariadbTable} and the room {@link dev.nachlauf.connectors.database.staged}.
 */
@NullMarked
package dev.nachlauf.connectors.database.mariadb;

import org.jspecify.annotations.NullMarked;
