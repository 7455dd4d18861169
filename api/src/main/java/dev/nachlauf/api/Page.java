package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** A page of a list. {@code next} is the cursor of the next page; null on the last one. */
public record Page<T>(List<T> items, @Nullable String next) {}
