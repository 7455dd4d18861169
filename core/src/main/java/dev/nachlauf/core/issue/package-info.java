/**
 * Files and texts that a job hands over. {@link dev.nachlauf.core.issue.IssueSystem} takes the rows as a target: it keeps
 * nothing, for what is issued stands in the ledger. From there {@link dev.nachlauf.core.issue.IssuedFiles} makes the files
 * when everything is known, as often as they are wanted: the same lines give the same bytes. Delivering them is left to
 * whoever knows the places.
 */
@NullMarked
package dev.nachlauf.core.issue;

import org.jspecify.annotations.NullMarked;
