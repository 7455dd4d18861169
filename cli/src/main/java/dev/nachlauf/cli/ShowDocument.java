package dev.nachlauf.cli;

import java.util.function.Function;
import picocli.CommandLine.Parameters;

/** Shows a document as it was written. */
abstract class ShowDocument<T> extends Verb {
    @Parameters(paramLabel = "NAME")
    private String name = "";

    private final String path;
    private final Class<T> type;
    private final Function<T, String> document;

    ShowDocument(String path, Class<T> type, Function<T, String> document) {
        this.path = path;
        this.type = type;
        this.document = document;
    }

    @Override
    public Integer call() {
        output().one(
                        service().get(path + "/" + ServiceClient.encode(name), type),
                        shown -> document.apply(shown).lines().toList());
        return ExitStatus.WELL;
    }
}
