/**
 * Questions about stored records: which ones meet a formula, in which order, and how many there are, also per group.
 * Start at {@link dev.nachlauf.core.query.RecordQuestion}, which is checked against what is known of a record type, and
 * asked of a cursor over its records. Records are read one after the other; what is kept of them is bounded by the number
 * that is asked for, or by the number of groups.
 */
@NullMarked
package dev.nachlauf.core.query;

import org.jspecify.annotations.NullMarked;
