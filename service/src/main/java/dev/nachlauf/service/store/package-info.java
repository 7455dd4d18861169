/**
 * What all entities share: the clock, and lists and maps that are kept as JSON text. Knows no feature.
 */
@NullMarked
package dev.nachlauf.service.store;

import org.jspecify.annotations.NullMarked;
