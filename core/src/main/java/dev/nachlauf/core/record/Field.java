package dev.nachlauf.core.record;

import dev.nachlauf.core.value.Kind;

/** A named slot of a row. */
public record Field(String name, Kind kind) {}
