/**
 * Jobs: every save is a version, and versions never change. {@link dev.nachlauf.service.job.Jobs} is the facade; {@link
 * dev.nachlauf.service.job.JobPlanning} brings a definition together with the systems it names, for checks and for runs
 * alike. What is wrong with a job is the core's to say.
 */
@NullMarked
package dev.nachlauf.service.job;

import org.jspecify.annotations.NullMarked;
