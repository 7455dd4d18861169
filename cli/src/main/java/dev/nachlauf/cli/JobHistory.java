package dev.nachlauf.cli;

import dev.nachlauf.api.JobVersionView;
import dev.nachlauf.api.PromoteJob;
import dev.nachlauf.api.PromotionView;
import dev.nachlauf.cli.Output.Column;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** The versions of a job, and which of them runs in live environments. */
@Command(name = "history", description = "All versions of a job, newest first.")
final class JobHistory extends Verb {
    private static final int ALL = 100_000;

    @Parameters(paramLabel = "NAME")
    private String name = "";

    @Override
    public Integer call() {
        List<PromotionView> promotions = promotions(service(), name);
        output().list(
                        service().list(path(name, "versions"), JobVersionView.class, ALL),
                        "It has no versions.",
                        List.of(
                                Column.number("version", JobVersionView::version),
                                Column.text("", version -> version.draft() ? "draft" : ""),
                                Column.<JobVersionView>text(
                                                "runs in", version -> inForce(version.version(), promotions))
                                        .unlessEmpty(),
                                Column.text("saved", version -> Output.minute(version.savedAt())),
                                Column.text("by", JobVersionView::savedBy),
                                Column.text("title", JobVersionView::title)));
        return ExitStatus.WELL;
    }

    private static String path(String job, String what) {
        return "/jobs/" + ServiceClient.encode(job) + "/" + what;
    }

    private static List<PromotionView> promotions(ServiceClient service, String job) {
        return service.list(path(job, "promotions"), PromotionView.class, ALL);
    }

    private static String inForce(int version, List<PromotionView> promotions) {
        return promotions.stream()
                .filter(promotion -> promotion.inForce() && promotion.version() == version)
                .map(PromotionView::environment)
                .sorted()
                .collect(Collectors.joining(" "));
    }

    /** What was promoted, and why. */
    @Command(name = "promotions", description = "Which versions were promoted to live environments, newest first.")
    static final class Promotions extends Verb {
        @Parameters(paramLabel = "NAME")
        private String name = "";

        @Override
        public Integer call() {
            output().list(
                            promotions(service(), name),
                            "No version of it was promoted.",
                            List.of(
                                    Column.text("environment", PromotionView::environment),
                                    Column.number("version", PromotionView::version),
                                    Column.text("", promotion -> promotion.inForce() ? "runs there" : ""),
                                    Column.text("promoted", promotion -> Output.minute(promotion.promotedAt())),
                                    Column.text("by", PromotionView::promotedBy),
                                    Column.text("note", PromotionView::note)));
            return ExitStatus.WELL;
        }
    }

    /** Makes a version the one that runs in a live environment. */
    @Command(name = "promote", description = "Make a version of a job the one that runs in a live environment.")
    static final class Promote extends Verb {
        @Parameters(paramLabel = "NAME")
        private String name = "";

        @Option(names = "--to", paramLabel = "E", required = true, description = "The live environment.")
        private String to = "";

        @Option(names = "--note", paramLabel = "TEXT", required = true, description = "What changes, and why.")
        private String note = "";

        @Option(names = "--job-version", paramLabel = "N", description = "This version; else the newest.")
        private Optional<Integer> version = Optional.empty();

        @Override
        public Integer call() {
            PromotionView promoted = service()
                    .post(path(name, "promote"), new PromoteJob(to, note, version.orElse(null)), PromotionView.class);
            output().one(
                            promoted,
                            view -> List.of("version " + view.version() + " of " + name + " runs in "
                                    + view.environment() + " from now on"));
            return ExitStatus.WELL;
        }
    }
}
