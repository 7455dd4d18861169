package dev.nachlauf.cli;

import dev.nachlauf.api.ConfirmationView;
import dev.nachlauf.api.FileView;
import dev.nachlauf.api.VerificationView.Difference;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** Compares what a run has issued with an export of the system that was to take it. */
@Command(
        name = "confirm",
        description = "Compare what a run has issued with an export of the system that was to take it.")
final class RunConfirm extends RunCommands.OfRun {
    private static final int MOST_SHOWN = 20;

    @Option(names = "--file", paramLabel = "EXPORT", required = true, description = "The export, a file of yours.")
    private Optional<Path> file = Optional.empty();

    @Option(
            names = "--key",
            paramLabel = "FIELD",
            description = "A field by which rows are found, where the job names none; may be repeated.")
    private List<String> key = List.of();

    @Override
    public Integer call() {
        FileView export = service().upload(file.orElseThrow());
        String asked =
                key.stream().map(field -> "&key=" + ServiceClient.encode(field)).collect(Collectors.joining());
        ConfirmationView found = service()
                .post(
                        path() + "/confirm?file=" + export.hash() + "&name=" + ServiceClient.encode(export.name())
                                + asked,
                        ConfirmationView.class);
        output().one(found, RunConfirm::lines);
        return found.differs() + found.missing() == 0 ? ExitStatus.WELL : ExitStatus.REFUSED;
    }

    private static List<String> lines(ConfirmationView found) {
        List<String> lines = new ArrayList<>();
        lines.add("run " + found.run() + ": " + Output.number(found.issued()) + " issued = "
                + Output.number(found.confirmed()) + " confirmed + " + Output.number(found.differs()) + " differ + "
                + Output.number(found.missing()) + " missing; " + Output.number(found.others())
                + (found.others() == 1 ? " other row in " : " other rows in ") + found.export());
        found.differences().stream().limit(MOST_SHOWN).map(RunConfirm::line).forEach(lines::add);
        if (found.differences().size() > MOST_SHOWN) {
            lines.add("  … with --output json, up to 1,000 of them");
        }
        return lines;
    }

    private static String line(Difference difference) {
        String fields = difference.fields().stream()
                .map(field -> field.field() + " was issued " + Objects.requireNonNullElse(field.written(), "(empty)")
                        + ", there " + Objects.requireNonNullElse(field.now(), "(empty)"))
                .collect(Collectors.joining(", "));
        return "  " + difference.found() + "  " + String.join(" · ", difference.key()) + "  row " + difference.row()
                + (fields.isEmpty() ? "" : "  " + fields);
    }
}
