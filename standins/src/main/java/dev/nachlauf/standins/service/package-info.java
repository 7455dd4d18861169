/**
 * What tests know of a service that they lend from class to class, because its start takes longer than most of them: its own
 * database, {@link dev.nachlauf.standins.service.ServiceDatabase}, which becomes again as it was after the first start. A new
 * table needs nothing here, unless a start fills it.
 */
@NullMarked
package dev.nachlauf.standins.service;

import org.jspecify.annotations.NullMarked;
