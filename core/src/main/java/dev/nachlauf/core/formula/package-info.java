/**
 * Formulas: ISO/IEC 9075 scalar expressions. Start at {@link dev.nachlauf.core.formula.Formula#check}, which walks the
 * stages in order: {@code Lexer} (text to tokens), {@code Parser} (tokens to a tree with spans), {@code Checker} (names
 * to slots, kinds inferred, every problem found at once) and {@code Compiler} (checked tree to closures over the slots
 * of a row; no name is looked up per row). To add an operator, follow it through the four; to add a function, add a row
 * to the function table.
 */
@NullMarked
package dev.nachlauf.core.formula;

import org.jspecify.annotations.NullMarked;
