/**
 * Figures about what a source or a record type holds. Start at {@link dev.nachlauf.core.profile.Profiler}, which reads
 * rows once, in memory that doesn't grow with them, and gives a {@link dev.nachlauf.core.profile.Profile}: figures per
 * field, what columns have to do with each other, and whether a key is unique. {@link
 * dev.nachlauf.core.profile.KeyAdvisor} ranks keys of a source against what a target holds. Counts are exact up to a
 * stated bound and say so where they are estimates.
 */
@NullMarked
package dev.nachlauf.core.profile;

import org.jspecify.annotations.NullMarked;
