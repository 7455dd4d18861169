/**
 * The kinds of value a field can have and what can be done with them: {@link dev.nachlauf.core.value.Kind} lists
 * them, {@link dev.nachlauf.core.value.TextParser} reads text of a source, {@link dev.nachlauf.core.value.Values}
 * writes canonical text, compares and divides. Values are plain Java objects and null; decimals are exact, and nothing
 * here uses binary fractions. This package knows neither rows nor formulas.
 */
@NullMarked
package dev.nachlauf.core.value;

import org.jspecify.annotations.NullMarked;
