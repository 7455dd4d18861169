package dev.nachlauf.service.crosswalk;

import dev.nachlauf.api.CrosswalkEntries;
import dev.nachlauf.api.CrosswalkView;
import dev.nachlauf.api.PiecesView;
import dev.nachlauf.api.SharedChange;
import dev.nachlauf.api.SharedChange.BrokenJob;
import dev.nachlauf.api.SourceRequest;
import dev.nachlauf.core.crosswalk.CrosswalkFile;
import dev.nachlauf.core.crosswalk.CrosswalkFile.Addition;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.environment.Environments;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.shared.Crosswalks;
import dev.nachlauf.service.shared.Pieces;
import dev.nachlauf.service.source.SourceRows;
import dev.nachlauf.service.web.ProblemViews;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Saves crosswalks and pieces, and says what a change touches: jobs that use it, and rejects that it heals. */
@Component
class SharedChanges {
    private static final int MOST_COLUMNS = 3;

    private final Crosswalks crosswalks;
    private final Pieces pieces;
    private final Jobs jobs;
    private final HealedRejects healed;
    private final SourceRows rows;
    /** The jobs that use what is changed are checked in one of them, so it must be named before anything is kept. */
    private final Environments environments;

    SharedChanges(
            Crosswalks crosswalks,
            Pieces pieces,
            Jobs jobs,
            HealedRejects healed,
            SourceRows rows,
            Environments environments) {
        this.environments = environments;
        this.crosswalks = crosswalks;
        this.pieces = pieces;
        this.jobs = jobs;
        this.healed = healed;
        this.rows = rows;
    }

    CrosswalkView save(String fileName, String document, String by) {
        environments.requireOne();
        return crosswalks.save(fileName, document, by);
    }

    CrosswalkView add(String name, CrosswalkEntries more, String by) {
        environments.requireOne();
        List<Addition> additions = more.entries().stream()
                .map(entry -> new Addition(Objects.requireNonNullElse(entry.scope(), ""), entry.from(), entry.to()))
                .toList();
        return crosswalks.add(name, additions, by);
    }

    /** The document of a crosswalk that a table says: of two or three columns, for value, translation and scope. */
    String document(String name, SourceRequest table) {
        List<List<@Nullable String>> cells = new ArrayList<>();
        rows.read(table, (fields, sensitive, reader) -> {
            if (fields.size() < 2 || fields.size() > MOST_COLUMNS) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.FILE_HEADER,
                        "A crosswalk has two or three columns (value, translation, scope), but this table has "
                                + fields.size() + ".",
                        "Take the other columns out."));
            }
            for (SourceRow row = reader.next(); row != null; row = reader.next()) {
                if (!row.problems().isEmpty()) {
                    throw new CannotGoOn(row.problems());
                }
                requireTranslation(row);
                if (cells.size() > CrosswalkFile.MOST_ENTRIES) {
                    throw new CannotGoOn(Problem.of(
                            ProblemCode.FILE_TOO_LARGE,
                            "A crosswalk has at most " + CrosswalkFile.MOST_ENTRIES
                                    + " entries, and this table has more.",
                            "Look the values up in the table instead."));
                }
                cells.add(Arrays.stream(row.cells()).map(Values::text).toList());
            }
        });
        return CrosswalkFile.document(name, name, cells);
    }

    /** A value without a translation is no entry, and must not vanish. */
    private static void requireTranslation(SourceRow row) {
        String value = Values.text(row.cell(0));
        if (value != null && row.cell(1) == null) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.NO_TRANSLATION,
                    "The value '" + value + "' has no translation in the table ("
                            + row.origin().text() + ").",
                    "Fill the second column, or take the row out."));
        }
    }

    PiecesView savePieces(String fileName, String document, String by) {
        environments.requireOne();
        return pieces.save(fileName, document, by);
    }

    /** Which jobs pieces that were saved touch; the systems that these jobs name are asked. */
    SharedChange touched(PiecesView saved) {
        List<Jobs.Version> users = jobs.using(job -> names(job, saved.name()));
        return new SharedChange(saved.name(), saved.version(), jobNames(users), broken(users), List.of());
    }

    private static boolean names(Jobs.Version job, String pieces) {
        return JobFile.included(new SourceText(job.name(), job.version().document()))
                .contains(pieces);
    }

    /** Which jobs and rejects a crosswalk that was saved touches; the systems that these jobs name are asked. */
    SharedChange touched(CrosswalkView saved) {
        List<String> through = pieces.list().stream()
                .filter(document -> Crosswalks.named(document.document()).contains(saved.name()))
                .map(PiecesView::name)
                .toList();
        List<Jobs.Version> users =
                jobs.using(job -> Crosswalks.named(job.version().document()).contains(saved.name())
                        || through.stream().anyMatch(document -> names(job, document)));
        return new SharedChange(
                saved.name(), saved.version(), jobNames(users), broken(users), healed.of(saved.name(), null));
    }

    private static List<String> jobNames(List<Jobs.Version> users) {
        return users.stream().map(Jobs.Version::name).toList();
    }

    private List<BrokenJob> broken(List<Jobs.Version> users) {
        List<BrokenJob> broken = new ArrayList<>();
        for (Jobs.Version job : users) {
            List<Problem> errors = jobs.problems(job).stream()
                    .filter(problem -> !problem.code().isWarning())
                    .toList();
            if (!errors.isEmpty()) {
                broken.add(new BrokenJob(job.name(), ProblemViews.of(errors)));
            }
        }
        return broken;
    }
}
