package dev.nachlauf.connectors.format.nested;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** A nested record with its values under dotted names. Bounded: a record is no place for a whole file. */
public final class FlatRecord {
    /** The most values of one record. */
    public static final int MOST_VALUES = 4_096;

    private final long line;
    private final String path;
    private final Map<String, Object> values = new HashMap<>();
    private final List<Problem> problems = new ArrayList<>(0);
    private @Nullable String raw;

    public FlatRecord(long line, String path) {
        this.line = line;
        this.path = path;
    }

    /** A record that can't be read, with its text as it was found. */
    public static FlatRecord broken(long line, String path, String raw, Problem problem) {
        FlatRecord record = new FlatRecord(line, path);
        record.raw = raw;
        record.problems.add(problem);
        return record;
    }

    /** Notes a value; null counts as not there. A second value of the same name is a problem, not a loss. */
    public void put(String name, @Nullable Object value) {
        if (value == null) {
            return;
        }
        if (values.size() >= MOST_VALUES) {
            if (problems.isEmpty()) {
                problem(ProblemCode.FILE_TOO_LARGE, "The record has more than " + MOST_VALUES + " values.");
            }
        } else if (values.putIfAbsent(name, value) != null) {
            problem(ProblemCode.ROW_RAGGED, "The record has " + name + " more than once.");
        }
    }

    /** Notes what is wrong with the record. */
    public void problem(ProblemCode code, String sentence) {
        problems.add(Problem.of(code, sentence, "Correct the record, or let record in the job pick deeper ones."));
    }

    public long line() {
        return line;
    }

    public String path() {
        return path;
    }

    public Map<String, Object> values() {
        return values;
    }

    public List<Problem> problems() {
        return problems;
    }

    /** The text of a broken record. */
    public @Nullable String raw() {
        return raw;
    }
}
