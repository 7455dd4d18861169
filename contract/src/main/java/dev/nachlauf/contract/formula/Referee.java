package dev.nachlauf.contract.formula;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Scope;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.sql.Array;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.jspecify.annotations.Nullable;

/**
 * Lets formulas and PostgreSQL evaluate the same generated expressions over the same rows. A pair is one expression over
 * one row.
 */
public final class Referee {
    private static final int ROWS = 20;
    private static final int DEEPEST = 4;
    private static final int MOST_SHOWN = 20;
    private static final String ERROR = "error";
    private static final String NULL = "null";
    private static final String VALUE = "value ";

    /** Evaluates an expression over every row; an error of one row doesn't keep the others from their answer. */
    private static final String FUNCTION = """
            CREATE FUNCTION answers(expression text) RETURNS text[] LANGUAGE plpgsql AS $$
            DECLARE row_no int; answer text; answers text[] := '{}';
            BEGIN
              FOR row_no IN SELECT r FROM v ORDER BY r LOOP
                BEGIN
                  EXECUTE 'SELECT coalesce(''value '' || cast((' || expression || ') as text), ''null'') FROM v WHERE r = $1'
                    INTO answer USING row_no;
                EXCEPTION WHEN OTHERS THEN
                  answer := 'error';
                END;
                answers := answers || answer;
              END LOOP;
              RETURN answers;
            END $$""";

    private final long pairs;
    private final long seed;
    private final List<String> disagreements = new ArrayList<>();
    private final Map<ListedDifference, Long> listed = new EnumMap<>(ListedDifference.class);
    private long compared;
    private long errors;

    private Referee(long pairs, long seed) {
        this.pairs = pairs;
        this.seed = seed;
    }

    /**
     * What came of it.
     *
     * @param errors pairs that are an error to both
     * @param listed pairs that differ for a listed reason
     * @param disagreements the others, at most twenty of them
     */
    public record Verdict(long pairs, long errors, Map<String, Long> listed, List<String> disagreements) {}

    /** Compares so many pairs in a fresh database. */
    public static Verdict compare(PrivateCluster cluster, long pairs, long seed) throws SQLException {
        String name = "referee" + System.nanoTime();
        cluster.createDatabase(name);
        try (Connection connection = cluster.connect(name);
                Statement statement = connection.createStatement()) {
            statement.execute(ReferenceRows.TABLE);
            statement.execute(FUNCTION);
            return new Referee(pairs, seed).run(connection);
        }
    }

    private Verdict run(Connection connection) throws SQLException {
        Random random = new Random(seed);
        ExpressionGenerator generator = new ExpressionGenerator(random);
        try (PreparedStatement ask = connection.prepareStatement("SELECT answers(?)")) {
            List<@Nullable Object[]> rows = List.of();
            for (int round = 0; compared < pairs && disagreements.size() < MOST_SHOWN; round++) {
                if (round % ROWS == 0) {
                    rows = freshRows(connection, random);
                }
                Spelling spelling = generator.any(1 + random.nextInt(DEEPEST));
                compare(spelling, rows, answers(ask, spelling.theirs()));
            }
        }
        Map<String, Long> reasons = new java.util.TreeMap<>();
        listed.forEach((difference, count) -> reasons.put(difference.reason(), count));
        return new Verdict(compared, errors, reasons, disagreements);
    }

    private static List<@Nullable Object[]> freshRows(Connection connection, Random random) throws SQLException {
        List<@Nullable Object[]> rows = new ArrayList<>();
        String places = "?" + ", ?".repeat(ReferenceRows.SHAPE.fields().size());
        try (Statement statement = connection.createStatement();
                PreparedStatement insert = connection.prepareStatement("INSERT INTO v VALUES (" + places + ")")) {
            statement.execute("DELETE FROM v");
            for (int i = 0; i < ROWS; i++) {
                @Nullable Object[] row = ReferenceRows.row(random);
                insert.setInt(1, i);
                for (int field = 0; field < row.length; field++) {
                    insert.setObject(field + 2, row[field]);
                }
                insert.addBatch();
                rows.add(row);
            }
            insert.executeBatch();
        }
        return rows;
    }

    private static String[] answers(PreparedStatement ask, String expression) throws SQLException {
        ask.setString(1, expression);
        try (ResultSet result = ask.executeQuery()) {
            result.next();
            Array answers = result.getArray(1);
            return (String[]) answers.getArray();
        }
    }

    private void compare(Spelling spelling, List<@Nullable Object[]> rows, String[] theirs) {
        List<Problem> problems = new ArrayList<>();
        Formula formula = Formula.check(FormulaSource.of(spelling.ours()), Scope.of(ReferenceRows.SHAPE), problems)
                .orElse(null);
        if (formula == null) {
            disagreements.add(
                    spelling.ours() + " is refused: " + problems.getFirst().sentence());
            return;
        }
        for (int i = 0; i < rows.size() && compared < pairs; i++) {
            compared++;
            String ours = ours(formula, rows.get(i));
            if (ours.equals(theirs[i])) {
                errors += ours.equals(ERROR) ? 1 : 0;
            } else {
                differ(spelling, rows.get(i), ours, theirs[i]);
            }
        }
    }

    private static String ours(Formula formula, @Nullable Object[] row) {
        try {
            Object value = formula.evaluator().evaluate(row);
            return value == null ? NULL : VALUE + Values.text(value);
        } catch (ValueProblem problem) {
            return ERROR;
        }
    }

    private void differ(Spelling spelling, @Nullable Object[] row, String ours, String theirs) {
        boolean oneError = ours.equals(ERROR) != theirs.equals(ERROR);
        if (oneError && spelling.stopsEarly()) {
            listed.merge(ListedDifference.STOPS_EARLY, 1L, Long::sum);
        } else if (ours.equals(ERROR) && beyondOurs(theirs)) {
            listed.merge(ListedDifference.OUR_BOUNDS, 1L, Long::sum);
        } else if (disagreements.size() < MOST_SHOWN) {
            disagreements.add("seed " + seed + ": " + spelling.ours() + "\n  with " + java.util.Arrays.toString(row)
                    + "\n  is " + ours + ", but PostgreSQL says " + theirs + " to " + spelling.theirs());
        }
    }

    private static boolean beyondOurs(String theirs) {
        return theirs.length() > Values.MOST_DIGITS;
    }

    /** The command: how many pairs, and the seed; the clock's unless given. */
    public static void main(String[] arguments) throws SQLException {
        long pairs = arguments.length > 0 ? Long.parseLong(arguments[0]) : 1_000_000;
        long seed = arguments.length > 1 ? Long.parseLong(arguments[1]) : System.nanoTime();
        System.out.println("Comparing " + pairs + " pairs with seed " + seed + " …");
        try (PrivateCluster cluster = PrivateCluster.start()) {
            Verdict verdict = compare(cluster, pairs, seed);
            System.out.println(verdict.pairs() + " pairs, " + verdict.errors() + " of them errors to both");
            verdict.listed().forEach((reason, count) -> System.out.println(count + " differ: " + reason));
            verdict.disagreements().forEach(System.out::println);
            System.out.println(verdict.disagreements().isEmpty() ? "No disagreement." : "They disagree.");
            if (!verdict.disagreements().isEmpty()) {
                System.exit(1);
            }
        }
    }
}
