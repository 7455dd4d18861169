package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Formula;
import java.math.BigDecimal;
import java.util.Optional;
import java.util.OptionalInt;

/**
 * A figure that is added up over the rows of the source.
 *
 * @param of over the columns of the source; its value is a number, or null
 * @param expected what all rows have to add up to
 * @param target the place of the field among those of the main write that has to add up to the same
 */
public record PlannedTotal(String name, Formula of, Optional<BigDecimal> expected, OptionalInt target) {}
