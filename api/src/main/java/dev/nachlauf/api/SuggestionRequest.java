package dev.nachlauf.api;

/** A source and the record type for whose fields suggestions are wanted. */
public record SuggestionRequest(SourceRequest source, String connection, String records) {}
