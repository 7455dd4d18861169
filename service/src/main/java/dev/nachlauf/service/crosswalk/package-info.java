/**
 * What people do with crosswalks and pieces: save them, see which jobs a change touches, try a value, list values without
 * a translation, add what is missing and see which rejects that heals. {@link
 * dev.nachlauf.service.crosswalk.SharedChanges} and {@code Gaps} are the use cases; the documents themselves are kept by the
 * feature {@code shared}.
 */
@NullMarked
package dev.nachlauf.service.crosswalk;

import org.jspecify.annotations.NullMarked;
