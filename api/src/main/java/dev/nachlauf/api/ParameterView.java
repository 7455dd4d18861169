package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A parameter of a job.
 *
 * @param kind one of text, integer, decimal, boolean, date, time, timestamp
 * @param defaultValue the value that it has where none is given; null where it has none
 * @param required whether a run can't start without a value
 * @param list whether several values are given, separated by commas or lines
 * @param allowed the values that it may have; empty for all
 * @param question what a person is asked; empty for its name
 */
public record ParameterView(
        String name,
        String kind,
        @Nullable String defaultValue,
        boolean required,
        boolean list,
        List<String> allowed,
        String question) {}
