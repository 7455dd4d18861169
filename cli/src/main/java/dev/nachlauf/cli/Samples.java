package dev.nachlauf.cli;

import dev.nachlauf.api.LedgerRowView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.VerificationView;
import dev.nachlauf.api.WriteCountView;
import java.util.ArrayList;
import java.util.List;
import java.util.function.ToLongFunction;

/** Some of the records that a run plans to change, so that people see more than counts. */
final class Samples {
    private static final int MOST = 3;

    private final ServiceClient service;

    Samples(ServiceClient service) {
        this.service = service;
    }

    /** A few lines for each outcome that changes a record. */
    List<String> of(RunView run) {
        List<String> lines = new ArrayList<>();
        add(run, "inserted", WriteCountView::inserted, lines);
        add(run, "updated", WriteCountView::updated, lines);
        add(run, "deleted", WriteCountView::deleted, lines);
        return lines;
    }

    /** Compares what was written with what is there now. */
    String readBack(RunView run) {
        VerificationView found = service.post("/runs/" + run.id() + "/verify?seed=1", VerificationView.class);
        return "read back: " + RunVerify.sum(found);
    }

    private void add(RunView run, String outcome, ToLongFunction<WriteCountView> of, List<String> lines) {
        long count = run.balance().writes().stream().mapToLong(of).sum();
        if (count == 0) {
            return;
        }
        String path = "/runs/" + run.id() + "/ledger?outcome=" + outcome;
        List<LedgerRowView> rows = service.list(path, LedgerRowView.class, MOST);
        for (LedgerRowView row : rows) {
            String write = run.balance().writes().size() > 1 ? row.write() + " " : "";
            lines.add("  " + outcome + "  " + write + String.join(" · ", row.key()) + "  " + RunCommands.changes(row));
        }
        if (count > rows.size()) {
            lines.add("  … all of them: nachlauf run ledger " + run.id() + " --outcome " + outcome);
        }
    }
}
