package dev.nachlauf.service.notice;

import dev.nachlauf.api.BalanceView;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.RejectGroup;
import dev.nachlauf.api.RunView;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.TellsPeople.Message;
import dev.nachlauf.service.reject.RejectGroups;
import dev.nachlauf.service.store.Json;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What is said of a run: one summary, with counts and names of fields, and without any value of a record. */
@Component
class NoticeText {
    /** Findings whose sentences speak of places, limits and counts; of all others only the code is told. */
    private static final Set<String> TOLD_WHOLE = Set.of(
                    ProblemCode.UNREACHABLE,
                    ProblemCode.DISK_FULL,
                    ProblemCode.SIGN_IN_REFUSED,
                    ProblemCode.TLS_REFUSED,
                    ProblemCode.HOST_UNKNOWN,
                    ProblemCode.OUT_OF_REACH,
                    ProblemCode.CONNECTION_UNKNOWN,
                    ProblemCode.FILE_MISSING,
                    ProblemCode.FILE_THERE,
                    ProblemCode.FILE_EMPTY,
                    ProblemCode.FILE_UNFINISHED,
                    ProblemCode.FILE_TOO_LARGE,
                    ProblemCode.SOURCE_EMPTY,
                    ProblemCode.HELD_FOR_REVIEW,
                    ProblemCode.FIRST_ROWS_WRITTEN,
                    ProblemCode.LIMIT_CROSSED,
                    ProblemCode.SENSITIVE_CHANGE,
                    ProblemCode.TOO_MANY_REJECTS)
            .stream()
            .map(ProblemCode::id)
            .collect(Collectors.toUnmodifiableSet());

    private static final int MOST_GROUPS = 20;
    private static final DateTimeFormatter TIME =
            DateTimeFormatter.ofPattern("d MMMM uuuu HH:mm 'UTC'", Locale.UK).withZone(ZoneOffset.UTC);

    private final RejectGroups groups;
    private final PageAddress pages;

    NoticeText(RejectGroups groups, PageAddress pages) {
        this.groups = groups;
        this.pages = pages;
    }

    /**
     * What programs are told.
     *
     * @param notice the same whenever the same is told again
     * @param environment empty where there are none
     * @param source the name of what was read
     * @param balance what became of how many rows; counts that are 0 are left out
     * @param rejects the commonest reasons
     */
    record Facts(
            String notice,
            List<String> occasions,
            String title,
            long run,
            String job,
            int version,
            String environment,
            String state,
            String source,
            String startedBy,
            @Nullable String startedAt,
            @Nullable String endedAt,
            Map<String, Long> balance,
            List<Reason> reasons,
            List<Rejected> rejects,
            String page) {}

    /** @param sentence empty where it might name values of records */
    record Reason(String code, String sentence) {}

    /** @param field empty where the reason concerns no single field */
    record Rejected(String code, String field, long rows) {}

    Message of(NoticeEntity notice, RunView run) {
        List<Rejected> rejects = run.openRejects() == 0
                ? List.of()
                : groups.of(run.id(), null, "field").stream()
                        .limit(MOST_GROUPS)
                        .map(NoticeText::rejected)
                        .toList();
        Facts facts = new Facts(
                notice.mark.toString(),
                notice.occasions,
                title(notice, run),
                run.id(),
                run.job(),
                run.jobVersion(),
                run.environment(),
                run.state(),
                run.source(),
                run.startedBy(),
                text(run.startedAt()),
                text(run.endedAt()),
                counts(run.balance()),
                run.reasons().stream().map(NoticeText::reason).toList(),
                rejects,
                pages.of(run.id()));
        return new Message(
                facts.notice(), notice.madeAt, facts.title(), lines(facts, run), Json.write(facts), notice.receivers);
    }

    private static @Nullable String text(@Nullable Instant time) {
        return time == null ? null : time.toString();
    }

    private static Rejected rejected(RejectGroup group) {
        return new Rejected(group.code(), group.field(), group.count());
    }

    private static Reason reason(ProblemView problem) {
        return new Reason(problem.code(), TOLD_WHOLE.contains(problem.code()) ? problem.sentence() : "");
    }

    private static String title(NoticeEntity notice, RunView run) {
        List<String> what = new ArrayList<>();
        for (String occasion : notice.occasions) {
            what.add(
                    switch (occasion) {
                        case "failed" -> "has failed";
                        case "held" -> "is held";
                        case "rejects" ->
                            "has left " + run.openRejects() + (run.openRejects() == 1 ? " reject" : " rejects");
                        default -> "has finished, after a run that failed";
                    });
        }
        return "Run " + run.id() + " of " + run.job() + (run.environment().isEmpty() ? "" : " in " + run.environment())
                + " " + String.join(" and ", what);
    }

    private static Map<String, Long> counts(BalanceView balance) {
        Map<String, Long> counts = new LinkedHashMap<>();
        counts.put("read", balance.read());
        Map<String, Long> others = new LinkedHashMap<>();
        others.put("skipped", balance.skipped());
        others.put("inserted", balance.inserted());
        others.put("updated", balance.updated());
        others.put("unchanged", balance.unchanged());
        others.put("deleted", balance.deleted());
        others.put("issued", balance.issued());
        others.put("rejected", balance.allRejected());
        others.put("unreached", balance.unreached());
        others.put("unknown", balance.unknown());
        others.forEach((name, count) -> {
            if (count > 0) {
                counts.put(name, count);
            }
        });
        return counts;
    }

    private static String lines(Facts facts, RunView run) {
        List<String> lines = new ArrayList<>();
        lines.add(facts.title() + ".");
        lines.add("");
        lines.add("job      " + run.job() + ", version " + run.jobVersion());
        lines.add("source   " + run.source());
        if (run.startedAt() != null) {
            lines.add("started  " + TIME.format(run.startedAt()) + " by " + run.startedBy());
        }
        if (run.endedAt() != null) {
            lines.add("ended    " + TIME.format(run.endedAt()));
        }
        lines.add("");
        facts.balance().forEach((name, count) -> lines.add(String.format(Locale.ROOT, "%-9s %,d", name, count)));
        if (!facts.reasons().isEmpty()) {
            lines.add("");
            facts.reasons()
                    .forEach(reason ->
                            lines.add(reason.code() + (reason.sentence().isEmpty() ? "" : ": " + reason.sentence())));
        }
        if (!facts.rejects().isEmpty()) {
            lines.add("");
            lines.add("Rejects by reason:");
            facts.rejects()
                    .forEach(reject -> lines.add("%,6d  %s"
                            .formatted(
                                    reject.rows(),
                                    reject.code() + (reject.field().isEmpty() ? "" : " (" + reject.field() + ")"))));
        }
        lines.add("");
        lines.add("See it: " + facts.page());
        return String.join("\n", lines) + "\n";
    }
}
