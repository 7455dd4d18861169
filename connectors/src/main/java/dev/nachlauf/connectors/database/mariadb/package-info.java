/**
 * A MariaDB database as a source of records: tables, views and queries, read in a read-only transaction some rows at a
 * time. Start at {@link dev.nachlauf.connectors.database.mariadb.MariadbType}. Nothing is written here so far.
 */
@NullMarked
package dev.nachlauf.connectors.database.mariadb;

import org.jspecify.annotations.NullMarked;
