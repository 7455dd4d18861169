package dev.nachlauf.core.system;

import java.util.List;
import java.util.Optional;
import java.util.ServiceLoader;

/** All system types and file formats that the service loader finds. */
public record Connectors(List<SystemType> systems, List<SourceFormat> formats) {
    /** Looks once. */
    public static Connectors load() {
        return new Connectors(loaded(SystemType.class), loaded(SourceFormat.class));
    }

    private static <T> List<T> loaded(Class<T> service) {
        return ServiceLoader.load(service).stream()
                .map(ServiceLoader.Provider::get)
                .toList();
    }

    /** The system type with this word. */
    public Optional<SystemType> system(String type) {
        return systems.stream().filter(system -> system.type().equals(type)).findFirst();
    }

    /** The format with this word. */
    public Optional<SourceFormat> format(String name) {
        return formats.stream().filter(format -> format.name().equals(name)).findFirst();
    }
}
