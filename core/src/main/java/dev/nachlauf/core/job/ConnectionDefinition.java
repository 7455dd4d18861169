package dev.nachlauf.core.job;

import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.system.Marks;
import java.util.Map;

/**
 * What a connection file says.
 *
 * @param type the kind of system, such as {@code folder} or {@code postgresql}
 * @param settings plain settings and the references of secrets ({@code env:NAME} or {@code file:PATH})
 * @param places where each setting stands in the file
 * @param marks our own marks on fields of its record types
 */
public record ConnectionDefinition(
        String name,
        String title,
        Placed<String> type,
        Map<String, String> settings,
        Map<String, Place> places,
        Marks marks) {
    public ConnectionDefinition {
        settings = Map.copyOf(settings);
        places = Map.copyOf(places);
    }

    /** The same connection with other settings. */
    ConnectionDefinition with(Map<String, String> others) {
        return new ConnectionDefinition(name, title, type, others, places, marks);
    }
}
