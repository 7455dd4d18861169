/**
 * Sources: files fetched from places into the store, and what they hold before anything is mapped. {@link
 * dev.nachlauf.service.source.Sources} is the facade for jobs and runs: it fetches what is whole and quiet, finds the
 * files inside of archives, settles each one's format and opens readers. {@code SourceLooks} shows and profiles a source
 * for people. Nothing here knows jobs.
 */
@NullMarked
package dev.nachlauf.service.source;

import org.jspecify.annotations.NullMarked;
