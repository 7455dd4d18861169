package dev.nachlauf.core.job;

import dev.nachlauf.core.problem.Place;

/** A name or value and where it stands in the file. */
public record Placed<T>(T value, Place place) {}
