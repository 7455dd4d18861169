/**
 * Environments: where jobs run, such as a trial system and the live one. {@link
 * dev.nachlauf.service.environment.Environments} keeps them and says which one the work on this thread is about: the one
 * that a request names, or the one of the run that is carried out. Connections ask for its values. With more than one,
 * nothing is assumed: who doesn't name one is told so as soon as it matters.
 */
@NullMarked
package dev.nachlauf.service.environment;

import org.jspecify.annotations.NullMarked;
