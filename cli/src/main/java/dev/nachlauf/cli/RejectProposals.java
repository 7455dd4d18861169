package dev.nachlauf.cli;

import dev.nachlauf.api.ProposalView;
import dev.nachlauf.cli.Output.Column;
import java.util.List;
import java.util.Objects;
import picocli.CommandLine.Command;

/** What corrections of rejects teach. */
@Command(
        name = "proposals",
        description = "Corrections that were made three times or more, and what would make them from now on.")
final class RejectProposals extends Verb {
    @Override
    public Integer call() {
        output().list(
                        service().list("/rejects/proposals", ProposalView.class, Integer.MAX_VALUE),
                        "No correction was made three times in the same way.",
                        List.of(
                                Column.number("fixed", ProposalView::fixed),
                                Column.number("heals", ProposalView::heals),
                                Column.text("job", ProposalView::job),
                                Column.text("column", ProposalView::column),
                                Column.text("was", ProposalView::from),
                                Column.text("corrected to", ProposalView::to),
                                Column.text("accept it with", RejectProposals::accept)));
        return ExitStatus.WELL;
    }

    private static String accept(ProposalView proposal) {
        return proposal.crosswalk() == null
                ? "a step of the job: " + proposal.step()
                : "nachlauf crosswalk add " + proposal.crosswalk() + " " + word(proposal.from()) + " "
                        + word(Objects.requireNonNullElse(proposal.translation(), ""));
    }

    /** As a shell takes it. */
    private static String word(String text) {
        return text.matches("[\\w./-]+") ? text : "'" + text.replace("'", "'\\''") + "'";
    }
}
