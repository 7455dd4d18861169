/**
 * The functions of formulas as rows of a table: name, parameters, result, null behaviour, errors, an example. Start at
 * {@link dev.nachlauf.core.function.FunctionTable}. The checker, the nearest names, the docs and the tests all read
 * this table, so a new function is one more row and nothing else. Functions know only values: no rows, no places.
 */
@NullMarked
package dev.nachlauf.core.function;

import org.jspecify.annotations.NullMarked;
