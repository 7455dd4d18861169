/**
 * Job files and connection files as definitions. Start at {@link dev.nachlauf.core.job.JobFile#read}: it reports
 * everything that the text alone can tell (keys, kinds, names), at its place. What needs a look at systems, fields or
 * types is the plan's concern. A definition keeps the place of each formula and name, so that later findings point into
 * the file that a person wrote.
 */
@NullMarked
package dev.nachlauf.core.job;

import org.jspecify.annotations.NullMarked;
