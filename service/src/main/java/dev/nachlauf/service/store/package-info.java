/**
 * What all entities share: the clock, and lists and maps that are kept as JSON
 * text ({@link dev.nachlauf.service.store.Json}). Every feature may use it; it knows no feature, no controller and no
 * table of its own.
 */
@NullMarked
package dev.nachlauf.service.store;

import org.jspecify.annotations.NullMarked;
