package dev.nachlauf.service.ledger;

import dev.nachlauf.api.LedgerRowView;
import dev.nachlauf.api.Page;
import dev.nachlauf.service.run.RunViews;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/runs/{id}/ledger")
class LedgerController {
    private final Ledger ledger;
    private final RunViews runs;

    LedgerController(Ledger ledger, RunViews runs) {
        this.ledger = ledger;
        this.runs = runs;
    }

    /** What became of each row of a run, in the order of the source, with old and new values. */
    @GetMapping
    Page<LedgerRowView> page(
            @PathVariable long id,
            @RequestParam(required = false) @Nullable String outcome,
            @RequestParam(required = false) @Nullable String cursor,
            @RequestParam(defaultValue = "100") int limit) {
        return ledger.page(runs.ledger(id), outcome, cursor, limit);
    }
}
