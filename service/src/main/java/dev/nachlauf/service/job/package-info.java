/**
 * Jobs: every save is a version, and versions never change. {@link dev.nachlauf.service.job.Jobs} is the facade. {@link
 * dev.nachlauf.service.job.JobPreparation} makes of a definition a {@link dev.nachlauf.service.job.PreparedJob}, with its
 * plan, its systems and its source; runs, checks, trials and searches for gaps all begin with one. {@link
 * dev.nachlauf.service.job.JobSources} knows what jobs read. What is wrong with a job is the core's to say.
 */
@NullMarked
package dev.nachlauf.service.job;

import org.jspecify.annotations.NullMarked;
