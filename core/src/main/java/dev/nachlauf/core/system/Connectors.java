package dev.nachlauf.core.system;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.ServiceLoader;

/** All system types, file formats, wrappings, formats of tables and of output that the service loader finds. */
public record Connectors(
        List<SystemType> systems,
        List<SourceFormat> formats,
        List<SourceContainer> containers,
        List<TableFormat> tables,
        List<OutputFormat> outputs) {
    /** Looks once. */
    public static Connectors load() {
        return new Connectors(
                loaded(SystemType.class),
                loaded(SourceFormat.class),
                loaded(SourceContainer.class),
                loaded(TableFormat.class),
                loaded(OutputFormat.class));
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

    /** The format of tables with this word. */
    public Optional<TableFormat> table(String name) {
        return tables.stream().filter(format -> format.name().equals(name)).findFirst();
    }

    /** The format of output with this word. */
    public Optional<OutputFormat> output(String name) {
        return outputs.stream().filter(format -> format.name().equals(name)).findFirst();
    }

    /** The files inside of a file: those of an archive, or the file itself. */
    public List<SourceBytes> members(SourceBytes bytes, Path scratch) throws IOException {
        for (SourceContainer container : containers) {
            Optional<List<SourceBytes>> members = container.members(bytes, scratch);
            if (members.isPresent()) {
                return members.get();
            }
        }
        return List.of(bytes);
    }

    /** The format that bytes are most likely of; the text format of least demands where nothing else fits. */
    public Detected recognise(String file, byte[] start) {
        return formats.stream()
                .flatMap(format -> format.recognise(file, start).stream())
                .max(Comparator.comparingDouble(Detected::confidence))
                .orElseGet(() -> new Detected("as", "delimited", 0, "nothing speaks for any format"));
    }
}
