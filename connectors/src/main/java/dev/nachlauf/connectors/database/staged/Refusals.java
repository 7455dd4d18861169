package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.connectors.database.staged.StagedTable.Check;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.RecordDescription.Reference;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * Asks the database which staged rows its constraints would refuse, one query per constraint, instead of reading error
 * texts: those are localised, hold values of rows, and name only the first offender.
 */
public final class Refusals {
    private final StagedTable table;
    private final StagedRows staged;
    private final Set<String> offended = new HashSet<>();
    private final Parents parents;
    private final Children children;

    public Refusals(StagedTable table) {
        this.table = table;
        this.staged = new StagedRows(table);
        this.parents = new Parents(table, staged);
        this.children = new Children(table);
    }

    /** All offenders among the changes of these rows; none where no constraint explains the refusal. */
    Offenders ask(ChangeSet changes, int[] which) throws SQLException {
        return ask(changes, which, false, constraint -> true);
    }

    /** Why records can't go, by the rows that remove them. */
    public Map<Integer, List<Problem>> forbidden(ChangeSet changes, int[] removals) throws SQLException {
        Map<Integer, List<Problem>> problems = new TreeMap<>();
        children.ask(table.stage(changes, removals), false, problems);
        return problems;
    }

    /** The offenders against constraints that found some before: a file that breaks one rule breaks it all along. */
    Offenders askAgain(ChangeSet changes, int[] which) throws SQLException {
        if (offended.isEmpty() && !children.haveForbidden()) {
            return Offenders.NONE;
        }
        Map<Integer, List<Problem>> problems = new TreeMap<>();
        Set<String> others = new HashSet<>(offended);
        for (Reference reference : table.description().references()) {
            if (parents.knows(reference) && others.remove(reference.name())) {
                for (int row : parents.missing(reference, changes, which)) {
                    parents.tell(reference, row, changes, problems);
                }
            }
        }
        Offenders known = new Offenders(problems, Set.of());
        if (others.isEmpty() && !children.haveForbidden()) {
            return known;
        }
        Offenders asked = ask(changes, known.without(which), true, others::contains);
        problems.putAll(asked.problems());
        return new Offenders(problems, asked.moved());
    }

    /**
     * Those of these rows that may equal a stored record in some fields: one that refers to a missing parent by one of them
     * equals none.
     */
    int[] withParents(ChangeSet changes, int[] which, int[] fields) throws SQLException {
        List<String> compared =
                IntStream.of(fields).mapToObj(table.fields()::get).toList();
        int[] left = which;
        for (Reference reference : table.description().references()) {
            if (parents.knows(reference) && compared.containsAll(reference.fields())) {
                Set<Integer> missing = Set.copyOf(parents.missing(reference, changes, left));
                if (!missing.isEmpty()) {
                    // the write, too, needn't try them first
                    offended.add(reference.name());
                    left = IntStream.of(left)
                            .filter(row -> !missing.contains(row))
                            .toArray();
                }
            }
        }
        return left;
    }

    private Offenders ask(ChangeSet changes, int[] which, boolean again, Predicate<String> asked) throws SQLException {
        int write = table.stage(changes, which);
        Map<Integer, List<Problem>> problems = new TreeMap<>();
        Set<Integer> moved = new TreeSet<>();
        for (Reference reference : table.description().references()) {
            if (asked.test(reference.name())) {
                note(reference.name(), problems, () -> parents.ask(reference, write, changes, problems));
            }
        }
        for (Check check : table.checks()) {
            if (asked.test(check.name())) {
                note(check.name(), problems, () -> checks(check, write, changes, problems));
            }
        }
        for (UniqueKey unique : table.description().uniqueKeys()) {
            if (asked.test(unique.name())) {
                note(unique.name(), problems, () -> unique(unique, write, changes, problems, moved));
            }
        }
        for (String column : table.fields()) {
            if (isRequired(column) && asked.test(column)) {
                note(column, problems, () -> empty(column, write, problems));
            }
        }
        if (changes.rows(ChangeSet.Kind.DELETE, which).length > 0) {
            children.ask(write, again, problems);
        }
        return new Offenders(problems, moved);
    }

    /** A question to the database. */
    private interface Question {
        void ask() throws SQLException;
    }

    /** Asks, and notes the constraint where it found offenders. */
    private void note(String constraint, Map<Integer, List<Problem>> problems, Question question) throws SQLException {
        int before = problems.values().stream().mapToInt(List::size).sum();
        question.ask();
        if (problems.values().stream().mapToInt(List::size).sum() > before) {
            offended.add(constraint);
        }
    }

    /** The check's own expression over the rows as they would be: written fields as staged, the others as stored. */
    private void checks(Check check, int write, ChangeSet changes, Map<Integer, List<Problem>> problems)
            throws SQLException {
        List<String> columns = new ArrayList<>();
        for (String column : check.columns()) {
            String value = staged.field(column) >= 0
                    ? table.asColumn(column, staged.value(column))
                    : "CASE WHEN s.kind = " + StagedTable.INSERT + " THEN " + table.otherwise(column) + " ELSE t."
                            + table.name(column) + " END";
            columns.add(value + " AS " + table.name(column));
        }
        String number = table.name("nachlauf n");
        String rows = "SELECT s.n AS " + number + (columns.isEmpty() ? "" : ", ") + String.join(", ", columns)
                + staged.from()
                + "LEFT JOIN " + table.sqlName() + " t ON s.kind <> " + StagedTable.INSERT + " AND "
                + table.sameRecord("s", "t")
                + " WHERE "
                + staged.live();
        String sql = "SELECT " + number + " FROM (" + rows + ") x WHERE NOT (" + check.sql() + ")";
        for (int index : staged.offenders(sql, write)) {
            String shown = staged.shown(check.columns(), index, changes);
            staged.add(
                    problems,
                    index,
                    ProblemCode.CHECK_FAILED,
                    check.columns(),
                    changes,
                    "The table's check " + check.name() + " refuses " + (shown.isEmpty() ? "this" : shown) + ": "
                            + check.sql() + ".",
                    "");
        }
    }

    private void unique(
            UniqueKey unique, int write, ChangeSet changes, Map<Integer, List<Problem>> problems, Set<Integer> moved)
            throws SQLException {
        if (!staged.written(unique.fields())) {
            if (unique.primary() && table.reservedIdsMayBeTaken()) {
                taken(write, moved);
            }
            return;
        }
        boolean jobKey = table.key().containsAll(unique.fields());
        String match = unique.fields().stream()
                .map(column -> "t." + table.name(column) + " = " + staged.value(column))
                .collect(Collectors.joining(" AND "));
        String sql =
                "SELECT s.n" + staged.from() + "JOIN " + table.sqlName() + " t ON " + match + " WHERE " + staged.live()
                        + " AND (s.kind = " + StagedTable.INSERT + " OR NOT (" + table.sameRecord("s", "t") + "))";
        for (int index : staged.offenders(sql, write)) {
            // somebody inserted a record with our key since we looked: it has to be compared with
            if (jobKey && changes.kind(index) == ChangeSet.Kind.INSERT) {
                moved.add(index);
            } else {
                notUnique(unique, index, changes, problems, "Another record");
            }
        }
        if (!jobKey) {
            String columns = unique.fields().stream().map(staged::value).collect(Collectors.joining(", "));
            String filled = unique.fields().stream()
                    .map(column -> "s.f" + staged.field(column) + " IS NOT NULL")
                    .collect(Collectors.joining(" AND "));
            String twice = "SELECT n FROM (SELECT s.n, count(*) OVER (PARTITION BY " + columns + ") AS times"
                    + staged.from() + "WHERE " + staged.live() + " AND " + filled + ") x WHERE times > 1";
            for (int index : staged.offenders(twice, write)) {
                notUnique(unique, index, changes, problems, "Another row of this batch");
            }
        }
    }

    /** A new record whose id is another one's by now gets another when it is looked at again. */
    private void taken(int write, Set<Integer> moved) throws SQLException {
        moved.addAll(staged.offenders(
                "SELECT s.n" + staged.from() + "JOIN " + table.sqlName() + " t ON " + table.sameRecord("s", "t")
                        + " WHERE " + staged.live() + " AND s.kind = " + StagedTable.INSERT,
                write));
    }

    private void notUnique(
            UniqueKey unique, int index, ChangeSet changes, Map<Integer, List<Problem>> problems, String who) {
        boolean said = problems.getOrDefault(index, List.of()).stream()
                .anyMatch(problem -> problem.code() == ProblemCode.NOT_UNIQUE);
        if (!said) {
            staged.add(
                    problems,
                    index,
                    ProblemCode.NOT_UNIQUE,
                    unique.fields(),
                    changes,
                    who + " has the same " + String.join(" + ", unique.fields()) + ", which has to be unique.",
                    "");
        }
    }

    private boolean isRequired(String column) {
        return table.description()
                .field(column)
                .map(field -> !field.traits().mayBeCleared())
                .orElse(false);
    }

    private void empty(String column, int write, Map<Integer, List<Problem>> problems) throws SQLException {
        String sql = "SELECT s.n" + staged.from() + "WHERE " + staged.live() + " AND s.f" + staged.field(column)
                + " IS NULL";
        for (int index : staged.offenders(sql, write)) {
            problems.computeIfAbsent(index, ignored -> new ArrayList<>())
                    .add(Problem.inField(ProblemCode.REQUIRED_EMPTY, column, "The field is required, but empty.", ""));
        }
    }
}
