package dev.nachlauf.cli;

import dev.nachlauf.api.VerificationView;
import dev.nachlauf.cli.RunCommands.OfRun;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** Compares what a run has written with what is there now. */
@Command(name = "verify", description = "Compare what a run has written with what is there now.")
final class RunVerify extends OfRun {
    private static final int MOST_SHOWN = 20;

    @Option(names = "--sample", paramLabel = "N", description = "Compare N records, chosen at random.")
    private Optional<Long> sample = Optional.empty();

    @Option(
            names = "--seed",
            paramLabel = "S",
            description = "What chooses the sample; the same one chooses it again.",
            defaultValue = "1")
    private long seed;

    @Override
    public Integer call() {
        String asked = sample.map(count -> "&sample=" + count).orElse("");
        VerificationView found = service().post(path() + "/verify?seed=" + seed + asked, VerificationView.class);
        output().one(found, RunVerify::lines);
        return found.differs() + found.gone() == 0 ? ExitStatus.WELL : ExitStatus.REFUSED;
    }

    private static List<String> lines(VerificationView found) {
        List<String> lines = new ArrayList<>();
        lines.add("run " + found.run() + ": " + sum(found));
        found.differences().stream().limit(MOST_SHOWN).map(RunVerify::line).forEach(lines::add);
        if (found.differences().size() > MOST_SHOWN) {
            lines.add("  … with --output json, up to 1,000 of them");
        }
        return lines;
    }

    /** How many records were compared, and what came of that. */
    static String sum(VerificationView found) {
        return Output.number(found.compared())
                + (found.compared() == 1 ? " record compared = " : " records compared = ")
                + Output.number(found.equal()) + " equal + " + Output.number(found.differs()) + " differ + "
                + Output.number(found.gone()) + " gone";
    }

    private static String line(VerificationView.Difference difference) {
        String fields = difference.fields().stream()
                .map(field -> field.field() + " was written "
                        + Objects.requireNonNullElse(field.written(), "(empty)") + ", now "
                        + Objects.requireNonNullElse(field.now(), "(empty)"))
                .collect(Collectors.joining(", "));
        return "  " + difference.found() + "  " + String.join(" · ", difference.key()) + "  row " + difference.row()
                + (fields.isEmpty() ? "" : "  " + fields);
    }
}
