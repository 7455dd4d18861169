/**
 * Rejects: rejected rows with all their problems, kept for people to work on. {@link
 * dev.nachlauf.service.reject.Rejects} is the facade. They arrive from the ledger in the transaction that marks their
 * chunk as done, so none appears twice.
 */
@NullMarked
package dev.nachlauf.service.reject;

import org.jspecify.annotations.NullMarked;
