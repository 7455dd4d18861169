/**
 * PostgreSQL tables as a system with records that can be written. Start at {@link
 * dev.nachlauf.connectors.database.postgresql.PostgresqlType}. {@code Catalog} looks (descriptions), {@code
 * PostgresqlTarget} writes by binary COPY through two temporary tables, {@code RecordSearch} finds, {@code Refusals} asks the database
 * which rows it would refuse and why instead of parsing its error texts, {@code Settlements} asks what became of a
 * transaction. Every identifier is quoted by {@code Sql.name}; every value travels as a parameter or through COPY.
 */
@NullMarked
package dev.nachlauf.connectors.database.postgresql;

import org.jspecify.annotations.NullMarked;
