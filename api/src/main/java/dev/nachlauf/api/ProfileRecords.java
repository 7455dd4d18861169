package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** Sets of fields whose uniqueness is asked for; null for none. */
public record ProfileRecords(@Nullable List<List<String>> keys) {}
