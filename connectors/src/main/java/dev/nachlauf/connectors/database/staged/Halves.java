package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.core.system.ComparesKeys;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Asks questions about many values of which one can be such that the question fails, though not the run: halves are asked
 * until it is known which, and that one has no answer.
 */
final class Halves {
    private final DatabaseTable table;

    Halves(DatabaseTable table) {
        this.table = table;
    }

    /** A question about some rows. */
    interface AboutRows {
        void ask(int[] rows) throws SQLException;
    }

    /** A question about some values. */
    interface AboutValues {
        void ask(List<String> values) throws SQLException;
    }

    /** A question that is answered by rows. */
    interface ForRows {
        int[] ask() throws SQLException;
    }

    private interface Question {
        void ask() throws SQLException;
    }

    void of(int[] rows, AboutRows question) throws SQLException {
        if (rows.length == 0) {
            return;
        }
        SQLException failure = failure(() -> question.ask(rows));
        // what fails for another reason fails of every row, and each question reads the whole table
        if (failure != null && table.dialect().isAboutRows(failure) && rows.length > 1) {
            int middle = rows.length / 2;
            of(Arrays.copyOf(rows, middle), question);
            of(Arrays.copyOfRange(rows, middle, rows.length), question);
        }
    }

    /** The answer; where the question fails, these rows. */
    int[] orElse(int[] rows, ForRows question) throws SQLException {
        int[][] answer = {rows};
        failure(() -> answer[0] = question.ask());
        return answer[0];
    }

    void of(List<String> values, AboutValues question) throws SQLException {
        if (failure(() -> question.ask(values)) != null && values.size() > 1) {
            int middle = values.size() / 2;
            of(values.subList(0, middle), question);
            of(values.subList(middle, values.size()), question);
        }
    }

    /** A number for each key; {@link ComparesKeys#NONE} for one that can't be taken. */
    List<Long> classes(List<Object[]> keys) throws SQLException {
        Connection connection = table.staged().connection();
        try {
            List<Long> classes = table.classes(keys);
            connection.commit();
            return classes;
        } catch (SQLException e) {
            if (table.dialect().isAboutServer(e)) {
                throw e;
            }
            connection.rollback();
        }
        if (keys.size() == 1) {
            return List.of(ComparesKeys.NONE);
        }
        int middle = keys.size() / 2;
        List<Long> all = new ArrayList<>(classes(keys.subList(0, middle)));
        all.addAll(classes(keys.subList(middle, keys.size())));
        return all;
    }

    /** Why a question failed, which then has left nothing behind; null where it did not. */
    private @Nullable SQLException failure(Question question) throws SQLException {
        Connection connection = table.staged().connection();
        Savepoint before = connection.setSavepoint();
        try {
            question.ask();
            connection.releaseSavepoint(before);
            return null;
        } catch (SQLException e) {
            if (table.dialect().isAboutServer(e)) {
                throw e;
            }
            connection.rollback(before);
            return e;
        }
    }
}
