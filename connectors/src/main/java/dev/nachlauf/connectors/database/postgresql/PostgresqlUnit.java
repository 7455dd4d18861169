package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.RecordDescription.Caution;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.system.Target.Unit;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** One transaction. Rows that the database refuses are found by asking it, left out, and the rest is written again. */
final class PostgresqlUnit implements Unit {
    private static final Problem NOT_WRITTEN = Problem.of(
            ProblemCode.NOT_WRITTEN,
            "A trigger of the table swallowed the row without an error.",
            "Ask who looks after the table why it does that.");

    private final Connection connection;
    private final PostgresqlTarget target;
    private final Table table;
    private final Staging staging;
    private final Token token;
    private final Refusals refusals;
    private final boolean triggers;
    private final boolean straightCopy;
    private boolean ended;

    PostgresqlUnit(
            Connection connection,
            PostgresqlTarget target,
            Table table,
            Staging staging,
            Refusals refusals,
            Token token) {
        this.connection = connection;
        this.target = target;
        this.table = table;
        this.staging = staging;
        this.token = token;
        this.refusals = refusals;
        Set<Caution> cautions = table.description().cautions();
        this.triggers = cautions.contains(Caution.BEFORE_TRIGGERS) || cautions.contains(Caution.REWRITE_RULES);
        List<String> key = staging.keys().stream().map(Column::name).toList();
        this.straightCopy = !triggers
                && !cautions.contains(Caution.ROW_SECURITY)
                && table.description().isUnique(key)
                && staging.fields().stream().noneMatch(column -> column.wire().needsCast());
    }

    @Override
    public Token token() {
        return token;
    }

    @Override
    public List<Answer> apply(List<Change> changes) {
        return target.inDatabase(() -> {
            @Nullable Answer[] answers = new Answer[changes.size()];
            List<Integer> all = IntStream.range(0, changes.size()).boxed().toList();
            Map<Integer, Answer> expected = refusals.askAgain(changes, all);
            expected.forEach((index, answer) -> answers[index] = answer);
            write(
                    changes,
                    all.stream().filter(index -> !expected.containsKey(index)).toList(),
                    answers);
            return Arrays.stream(answers).map(Objects::requireNonNull).toList();
        });
    }

    /** Writes the changes with these indices; those that are refused are sorted out and the rest is written again. */
    private void write(List<Change> changes, List<Integer> indices, @Nullable Answer[] answers) throws SQLException {
        List<Integer> pending = indices;
        while (!pending.isEmpty()) {
            SQLException refusal = attempt(changes, pending, answers);
            if (refusal == null) {
                return;
            }
            Map<Integer, Answer> offenders = ask(changes, pending, refusal);
            if (offenders.isEmpty()) {
                bisect(changes, pending, refusal, answers);
                return;
            }
            offenders.forEach((index, answer) -> answers[index] = answer);
            pending = pending.stream()
                    .filter(index -> !offenders.containsKey(index))
                    .toList();
        }
    }

    /** Nobody knows which rows are at fault: halves are tried until single rows remain. */
    private void bisect(List<Change> changes, List<Integer> indices, SQLException refusal, @Nullable Answer[] answers)
            throws SQLException {
        if (indices.size() == 1) {
            answers[indices.getFirst()] = Refusals.unexplained(table, refusal);
            return;
        }
        int middle = indices.size() / 2;
        write(changes, indices.subList(0, middle), answers);
        write(changes, indices.subList(middle, indices.size()), answers);
    }

    /** The refusal where the database refused, after which nothing of this attempt is left; else null. */
    private @Nullable SQLException attempt(List<Change> changes, List<Integer> indices, @Nullable Answer[] answers)
            throws SQLException {
        Savepoint before = connection.setSavepoint();
        try {
            writeOnce(changes, indices, answers);
            try (Statement statement = connection.createStatement()) {
                statement.execute("SET CONSTRAINTS ALL IMMEDIATE");
            }
            connection.releaseSavepoint(before);
            return null;
        } catch (SQLException e) {
            if (!Sql.isAboutRows(e)) {
                throw e;
            }
            connection.rollback(before);
            return e;
        }
    }

    private Map<Integer, Answer> ask(List<Change> changes, List<Integer> indices, SQLException refusal)
            throws SQLException {
        if (!Sql.classOf(refusal).equals("23")) {
            return Map.of();
        }
        Savepoint before = connection.setSavepoint();
        try {
            return refusals.ask(changes, indices);
        } catch (SQLException e) {
            if (!Sql.isAboutRows(e)) {
                throw e;
            }
            return Map.of();
        } finally {
            connection.rollback(before);
        }
    }

    private void writeOnce(List<Change> changes, List<Integer> indices, @Nullable Answer[] answers)
            throws SQLException {
        Map<Boolean, List<Integer>> byInsert = indices.stream()
                .collect(Collectors.partitioningBy(index -> changes.get(index) instanceof Change.Insert));
        List<Integer> inserts = Objects.requireNonNull(byInsert.get(true));
        List<Integer> others = Objects.requireNonNull(byInsert.get(false));
        if (!others.isEmpty()) {
            int write = staging.changes(changes, others);
            update(changes, others, write, answers);
            delete(changes, others, write, answers);
        }
        if (!inserts.isEmpty()) {
            if (straightCopy
                    && inserts.stream().allMatch(index -> knownId((Change.Insert) changes.get(index)) != null)) {
                copy(changes, inserts, answers);
            } else {
                insert(changes, inserts, answers);
            }
        }
    }

    /** The id of a new record where it is known beforehand: reserved, or among the written fields. */
    private @Nullable Object knownId(Change.Insert insert) {
        if (insert.id() != null) {
            return insert.id();
        }
        List<Object> parts = new ArrayList<>();
        for (Column id : staging.ids()) {
            int field = staging.fields().indexOf(id);
            Object part = field < 0 ? null : insert.after()[field];
            if (part == null) {
                return null;
            }
            parts.add(part);
        }
        return parts.size() == 1 ? parts.getFirst() : parts;
    }

    private static boolean reserved(Change.Insert insert) {
        return insert.id() != null;
    }

    private void copy(List<Change> changes, List<Integer> inserts, @Nullable Answer[] answers) throws SQLException {
        boolean withId = reserved((Change.Insert) changes.get(inserts.getFirst()));
        List<Column> columns = new ArrayList<>(withId ? staging.ids() : List.of());
        columns.addAll(staging.fields());
        BinaryCopy rows = new BinaryCopy();
        for (int index : inserts) {
            Change.Insert insert = (Change.Insert) changes.get(index);
            rows.row(columns.size());
            if (withId) {
                rows.field(staging.ids().getFirst().wire(), insert.id());
            }
            for (int i = 0; i < staging.fields().size(); i++) {
                rows.field(staging.fields().get(i).wire(), insert.after()[i]);
            }
        }
        staging.in(
                table.sqlName() + " ("
                        + Sql.names("", columns.stream().map(Column::name).toList()) + ")",
                rows);
        for (int index : inserts) {
            answers[index] = new Answer.Done(knownId((Change.Insert) changes.get(index)), null);
        }
    }

    /** Through the staging table, with everything that the table's own code makes of the rows read back. */
    private void insert(List<Change> changes, List<Integer> inserts, @Nullable Answer[] answers) throws SQLException {
        int write = staging.changes(changes, inserts);
        boolean withId = reserved((Change.Insert) changes.get(inserts.getFirst()));
        StringBuilder names = new StringBuilder();
        StringBuilder values = new StringBuilder();
        for (int i = 0; withId && i < staging.ids().size(); i++) {
            names.append(Sql.name(staging.ids().get(i).name())).append(", ");
            values.append(Staging.cast("s.i" + i, staging.ids().get(i))).append(", ");
        }
        names.append(Sql.names("", staging.fields().stream().map(Column::name).toList()));
        for (int i = 0; i < staging.fields().size(); i++) {
            values.append(i == 0 ? "" : ", ")
                    .append(Staging.cast("s.f" + i, staging.fields().get(i)));
        }
        String overriding = staging.ids().stream().anyMatch(Column::alwaysIdentity) ? " OVERRIDING SYSTEM VALUE" : "";
        String sql = "INSERT INTO " + table.sqlName() + " (" + names + ")" + overriding + " SELECT " + values + " FROM "
                + staging.changesTable() + " s WHERE s.w = ? AND s.kind = " + Staging.INSERT
                + " ORDER BY s.n RETURNING "
                + returning("");
        Map<Object, Returned> written = new HashMap<>();
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    Returned returned = returned(row, 1);
                    written.put(withId ? returned.id : keyOf(returned.values), returned);
                }
            }
        }
        for (int index : inserts) {
            Change.Insert insert = (Change.Insert) changes.get(index);
            Returned returned = written.get(withId ? Objects.requireNonNull(insert.id()) : Arrays.asList(insert.key()));
            answers[index] = returned == null
                    ? new Answer.Refused(List.of(NOT_WRITTEN))
                    : new Answer.Done(returned.id, triggers ? returned.values : null);
        }
    }

    private List<@Nullable Object> keyOf(@Nullable Object[] values) {
        return staging.keys().stream()
                .map(key -> values[staging.fields().indexOf(key)])
                .collect(Collectors.toCollection(ArrayList::new));
    }

    private record Returned(Object id, @Nullable Object[] values) {}

    private String returning(String prefix) {
        List<String> columns = new ArrayList<>();
        staging.ids().forEach(id -> columns.add(Staging.read(prefix + Sql.name(id.name()), id)));
        staging.fields().forEach(field -> columns.add(Staging.read(prefix + Sql.name(field.name()), field)));
        return String.join(", ", columns);
    }

    private Returned returned(ResultSet row, int first) throws SQLException {
        List<@Nullable Object> ids = new ArrayList<>();
        int at = first;
        for (Column id : staging.ids()) {
            ids.add(ResultValues.read(row, at++, id.wire()));
        }
        @Nullable Object[] values = new Object[staging.fields().size()];
        for (int i = 0; i < values.length; i++) {
            values[i] = ResultValues.read(row, at++, staging.fields().get(i).wire());
        }
        Object id = ids.size() == 1 ? Objects.requireNonNull(ids.getFirst()) : ids;
        return new Returned(id, values);
    }

    private void update(List<Change> changes, List<Integer> others, int write, @Nullable Answer[] answers)
            throws SQLException {
        List<Integer> updates = others.stream()
                .filter(index -> changes.get(index) instanceof Change.Update)
                .toList();
        if (updates.isEmpty()) {
            return;
        }
        String assignments = IntStream.range(0, staging.fields().size())
                .mapToObj(i -> Sql.name(staging.fields().get(i).name()) + " = "
                        + Staging.cast("s.f" + i, staging.fields().get(i)))
                .collect(Collectors.joining(", "));
        String sql = "UPDATE " + table.sqlName() + " t SET " + assignments + " FROM " + staging.changesTable()
                + " s WHERE s.w = ? AND s.kind = " + Staging.UPDATE + " AND " + staging.sameRecord()
                + " AND t.xmin = s.mark RETURNING s.n" + (triggers ? ", " + returning("t.") : "");
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    int index = row.getInt(1);
                    Change.Update update = (Change.Update) changes.get(index);
                    answers[index] = new Answer.Done(update.id(), triggers ? returned(row, 2).values : null);
                }
            }
        }
        unanswered(updates, write, answers);
    }

    private void delete(List<Change> changes, List<Integer> others, int write, @Nullable Answer[] answers)
            throws SQLException {
        List<Integer> deletes = others.stream()
                .filter(index -> changes.get(index) instanceof Change.Delete)
                .toList();
        if (deletes.isEmpty()) {
            return;
        }
        String sql = "DELETE FROM " + table.sqlName() + " t USING " + staging.changesTable()
                + " s WHERE s.w = ? AND s.kind = " + Staging.DELETE + " AND " + staging.sameRecord()
                + " AND t.xmin = s.mark RETURNING s.n";
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    int index = row.getInt(1);
                    answers[index] = new Answer.Done(((Change.Delete) changes.get(index)).id(), null);
                }
            }
        }
        unanswered(deletes, write, answers);
    }

    /** A row without an answer was changed by somebody else, or swallowed: its version tells which. */
    private void unanswered(List<Integer> indices, int write, @Nullable Answer[] answers) throws SQLException {
        List<Integer> open =
                indices.stream().filter(index -> answers[index] == null).toList();
        if (open.isEmpty()) {
            return;
        }
        open.forEach(index -> answers[index] = new Answer.Moved());
        if (triggers) {
            String sql = "SELECT s.n FROM " + staging.changesTable() + " s JOIN " + table.sqlName() + " t ON "
                    + staging.sameRecord() + " WHERE s.w = ? AND t.xmin = s.mark";
            try (PreparedStatement statement = connection.prepareStatement(sql)) {
                statement.setInt(1, write);
                try (ResultSet row = statement.executeQuery()) {
                    while (row.next()) {
                        if (answers[row.getInt(1)] instanceof Answer.Moved) {
                            answers[row.getInt(1)] = new Answer.Refused(List.of(NOT_WRITTEN));
                        }
                    }
                }
            }
        }
    }

    @Override
    public void commit() {
        target.inDatabase(() -> {
            connection.commit();
            ended = true;
            target.unitEnded();
            return true;
        });
    }

    @Override
    public void close() {
        if (!ended) {
            ended = true;
            target.unitEnded();
            try {
                connection.rollback();
            } catch (SQLException e) {
                // the connection is gone, and the transaction with it
            }
        }
    }
}
