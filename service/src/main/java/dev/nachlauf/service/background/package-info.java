/**
 * Work that nobody waits for. {@link dev.nachlauf.service.background.Worker} is the thread behind it: it looks for what is
 * due when somebody wakes it and every so often, so that nothing depends on being woken. {@link
 * dev.nachlauf.service.background.Backoff} says when something that has failed is tried again, and when it is given up.
 */
@NullMarked
package dev.nachlauf.service.background;

import org.jspecify.annotations.NullMarked;
