package dev.nachlauf.service.shared;

import java.util.Map;
import java.util.OptionalInt;

/** Which versions of shared documents hold; where none is said, the newest. */
public record Pins(Map<String, String> versions) {
    /** The newest of everything. */
    public static final Pins NEWEST = new Pins(Map.of());

    public Pins {
        versions = Map.copyOf(versions);
    }

    /** The name under which a document is pinned. */
    static String key(SharedDocuments.Kind kind, String name) {
        return kind.word() + " " + name;
    }

    OptionalInt version(SharedDocuments.Kind kind, String name) {
        String version = versions.get(key(kind, name));
        return version == null ? OptionalInt.empty() : OptionalInt.of(Integer.parseInt(version));
    }
}
