package dev.nachlauf.service.reject;

import dev.nachlauf.api.Page;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.RejectView;
import dev.nachlauf.core.system.TableFormat;
import dev.nachlauf.core.system.TableFormat.Column;
import dev.nachlauf.core.system.TableFormat.TableWriter;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The rejects of a run as a workbook: what is wrong with a row stands beside its cells, which can be mended there. Columns
 * of ours have names in brackets, so none of them is taken for one of the source.
 */
final class RejectSheet {
    static final String FORMAT = "xlsx";

    private static final String NAME = "Rejects";
    /** The number of the reject. */
    static final String REJECT = "[reject]";
    /** How the reject stood when the sheet was written. */
    static final String EDITION = "[edition]";

    static final List<String> OURS = List.of(REJECT, EDITION, "[place]", "[what is wrong]");
    private static final Map<String, Integer> WIDTHS =
            Map.of(REJECT, 9, EDITION, 9, "[place]", 28, "[what is wrong]", 60);
    private static final int USUAL_WIDTH = 16;
    private static final int PAGE = 1_000;

    private RejectSheet() {}

    /** Writes those that are not closed, page by page. */
    static void write(TableFormat format, Rejects rejects, long run, List<String> header, Path file)
            throws IOException {
        List<Column> columns = Stream.concat(OURS.stream(), header.stream())
                .map(name -> new Column(name, WIDTHS.getOrDefault(name, USUAL_WIDTH)))
                .toList();
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file));
                TableWriter sheet = format.write(out, NAME, columns)) {
            String cursor = null;
            do {
                Page<RejectView> page = rejects.list(run, null, false, cursor, PAGE);
                for (RejectView reject : page.items()) {
                    sheet.row(cells(reject));
                }
                cursor = page.next();
            } while (cursor != null);
        }
    }

    private static List<@Nullable String> cells(RejectView reject) {
        List<@Nullable String> cells = new ArrayList<>(Arrays.asList(
                String.valueOf(reject.id()),
                String.valueOf(reject.edition()),
                reject.place(),
                reject.problems().stream().map(RejectSheet::reason).collect(Collectors.joining("\n"))));
        for (int column = 0; column < reject.header().size(); column++) {
            cells.add(cell(reject, column));
        }
        return cells;
    }

    /** What stands in a column of a rejected row: the correction where there is one; null for nothing. */
    static @Nullable String cell(RejectView reject, int column) {
        String correction = reject.corrections().get(reject.header().get(column));
        return correction != null
                ? correction
                : column < reject.raw().size() ? reject.raw().get(column) : null;
    }

    private static String reason(ProblemView problem) {
        return (problem.field() == null ? "" : problem.field() + ": ") + problem.sentence();
    }
}
