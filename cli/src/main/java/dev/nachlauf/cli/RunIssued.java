package dev.nachlauf.cli;

import dev.nachlauf.api.IssuedFileView;
import dev.nachlauf.cli.Output.Column;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** The files that a run hands over. */
@Command(name = "issued", description = "Show the files that a run hands over, or would; perhaps write them here too.")
final class RunIssued extends RunCommands.OfRun {
    @Option(names = "--out", paramLabel = "FOLDER", description = "A folder into which they are written.")
    private Optional<Path> out = Optional.empty();

    @Override
    public Integer call() {
        List<IssuedFileView> files = service().list(path() + "/issued", IssuedFileView.class, Integer.MAX_VALUE);
        output().list(
                        files,
                        "Run " + id() + " issues no files.",
                        List.of(
                                Column.text("file", IssuedFileView::name),
                                Column.text("goes to", IssuedFileView::connection),
                                Column.number("rows", IssuedFileView::rows),
                                Column.number("bytes", IssuedFileView::size),
                                Column.text("state", file -> file.delivered() ? "delivered" : "not delivered")));
        out.ifPresent(folder -> files.forEach(file -> write(file, folder)));
        return ExitStatus.WELL;
    }

    private void write(IssuedFileView file, Path folder) {
        try {
            Files.createDirectories(folder);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        Path name = Path.of(file.name()).getFileName();
        service().download(path() + "/issued/file?name=" + ServiceClient.encode(file.name()), folder.resolve(name));
        output().remark(name + " is in " + folder + ".");
    }
}
