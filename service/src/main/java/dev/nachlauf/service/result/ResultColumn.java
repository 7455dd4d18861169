package dev.nachlauf.service.result;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** A column that is added to a source. */
record ResultColumn(What what, String head) {
    /** What it shows of a row. */
    enum What {
        OUTCOME,
        MESSAGE,
        KEY,
        ID,
        RUN;

        String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    private static final String USUAL = "outcome,message,id";

    /**
     * Reads such a list as {@code outcome=Status,message}: what a column shows, and its head where that is not the same word.
     *
     * @param asked null for outcome, message and id
     * @param taken names of the source's own columns
     * @throws CannotGoOn where there is no such column
     */
    static List<ResultColumn> of(@Nullable String asked, List<String> taken) {
        List<ResultColumn> columns = new ArrayList<>();
        for (String part : (asked == null || asked.isBlank() ? USUAL : asked).split(",")) {
            String word =
                    part.contains("=") ? part.substring(0, part.indexOf('=')).strip() : part.strip();
            What what = Arrays.stream(What.values())
                    .filter(one -> one.word().equals(word))
                    .findFirst()
                    .orElseThrow(() -> unknown(word));
            String head =
                    part.contains("=") ? part.substring(part.indexOf('=') + 1).strip() : word;
            columns.add(new ResultColumn(what, free(head, taken)));
        }
        return columns;
    }

    /** No column of the source is told twice. */
    private static String free(String head, List<String> taken) {
        return taken.contains(head) ? head + " of the run" : head;
    }

    private static CannotGoOn unknown(String word) {
        return new CannotGoOn(Problem.of(
                ProblemCode.REQUEST_MALFORMED,
                "There is no column " + word + " of results.",
                "There are " + Arrays.stream(What.values()).map(What::word).collect(Collectors.joining(", ")) + "."));
    }
}
