package dev.nachlauf.cli;

import java.nio.file.Path;
import java.util.List;
import java.util.function.Function;
import picocli.CommandLine.Parameters;

/** Keeps documents from files. */
abstract class SaveDocuments<T> extends Verb {
    @Parameters(paramLabel = "FILE", arity = "1..*", description = "Files; - for standard input.")
    private List<Path> files = List.of();

    private final String path;
    private final Class<T> type;
    private final Function<T, List<String>> lines;

    /** @param lines what is said of each that was kept */
    SaveDocuments(String path, Class<T> type, Function<T, List<String>> lines) {
        this.path = path;
        this.type = type;
        this.lines = lines;
    }

    @Override
    public Integer call() {
        for (Path file : files) {
            String named = path + "?file=" + ServiceClient.encode(file.getFileName());
            output().one(service().postDocument(named, file, type), lines);
        }
        return ExitStatus.WELL;
    }
}
