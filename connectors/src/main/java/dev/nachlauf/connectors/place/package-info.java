/**
 * Places of files, one package each. {@link dev.nachlauf.connectors.place.FilePattern} holds what they share: wildcards
 * that never lead out of a place, and the rule that a file that may still be written isn't taken. To add a place,
 * implement {@link dev.nachlauf.core.system.SystemType} and {@link dev.nachlauf.core.system.HoldsFiles} in a package of
 * its own and name it to the service loader.
 */
@NullMarked
package dev.nachlauf.connectors.place;

import org.jspecify.annotations.NullMarked;
