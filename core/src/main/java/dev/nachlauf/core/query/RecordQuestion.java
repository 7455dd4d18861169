package dev.nachlauf.core.query;

import dev.nachlauf.core.formula.Evaluator;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Requirement;
import dev.nachlauf.core.formula.Scope;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.ReadsRecords.Condition;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.PriorityQueue;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** A checked question about the records of one type. */
public final class RecordQuestion {
    /** More groups are no answer that anybody reads. */
    static final int MOST_GROUPS = 10_000;

    private final RecordDescription records;
    private final Optional<Formula> where;
    /** What has to be read, in the order of the record type. */
    private final List<String> read;

    private RecordQuestion(RecordDescription records, Optional<Formula> where, Set<String> named) {
        this.records = records;
        this.where = where;
        List<String> needed = new ArrayList<>();
        for (int slot = 0; slot < records.fields().size(); slot++) {
            int place = slot;
            String name = records.fields().get(slot).name();
            if (named.contains(name)
                    || where.stream().anyMatch(formula -> formula.slots().contains(place))) {
                needed.add(name);
            }
        }
        // there is no question about nothing
        this.read = needed.isEmpty() ? List.of(records.fields().getFirst().name()) : List.copyOf(needed);
    }

    /**
     * A question.
     *
     * @param where what records have to meet; empty for all of them
     * @param named fields that are shown, ordered or counted by
     * @throws CannotGoOn where a field isn't known, the formula is wrong, or it speaks of what is kept from those who look
     */
    public static RecordQuestion of(RecordDescription records, Optional<String> where, List<String> named) {
        List<Problem> problems = new ArrayList<>();
        List<String> known =
                records.fields().stream().map(FieldDescription::name).toList();
        for (String name : named) {
            if (!known.contains(name)) {
                problems.add(Problem.of(
                        ProblemCode.FIELD_UNKNOWN,
                        records.name() + " has no field " + name + ".",
                        NearestNames.suggestion(name, known, "Fields: " + String.join(", ", known) + ".")));
            }
        }
        Shape shape = new Shape(records.fields().stream()
                .map(field -> new Field(field.name(), field.kind()))
                .toList());
        Optional<Formula> formula =
                where.flatMap(text -> Formula.check(FormulaSource.of(text), Scope.of(shape), Kind.BOOLEAN, problems));
        formula.ifPresent(checked -> checked.slots().stream()
                .map(slot -> records.fields().get(slot))
                .filter(FieldDescription::sensitive)
                .forEach(field -> problems.add(hidden(field.name()))));
        CannotGoOn.overErrorsAmong(problems);
        return new RecordQuestion(records, formula, new LinkedHashSet<>(named));
    }

    private static Problem hidden(String field) {
        return Problem.of(
                ProblemCode.NOT_PERMITTED,
                "The field " + field + " is marked as sensitive, and whoever asks by it would learn its values.",
                "Ask by another field.");
    }

    /** Refuses to put in order, or to count, by what is kept from those who look. */
    public RecordQuestion requireOpen(List<String> fields) {
        List<Problem> problems = records.fields().stream()
                .filter(field -> field.sensitive() && fields.contains(field.name()))
                .map(field -> hidden(field.name()))
                .toList();
        CannotGoOn.overErrorsAmong(problems);
        return this;
    }

    /** What only those records meet that the question is about, as far as a system can say so. */
    public List<Condition> conditions(Predicate<FieldDescription> filterable) {
        return where.stream()
                .flatMap(formula -> formula.requirements().stream())
                .filter(requirement -> filterable.test(records.fields().get(requirement.slot())))
                .map(this::condition)
                .toList();
    }

    private Condition condition(Requirement requirement) {
        String field = records.fields().get(requirement.slot()).name();
        return switch (requirement) {
            case Requirement.Among among -> new Condition.Among(field, among.values());
            case Requirement.AtLeast least -> new Condition.AtLeast(field, least.value());
        };
    }

    /** The fields that a cursor has to give, in this order. */
    public List<String> read() {
        return read;
    }

    /**
     * What was found.
     *
     * @param records the values of the fields that were asked for
     * @param more whether there are others
     * @param broken how many records the formula could not be computed of; they are not among those found
     */
    public record Found(List<@Nullable Object[]> records, boolean more, long broken) {}

    /** A record that was met, and the how manieth it is. */
    private record Met(long number, @Nullable Object[] values) {}

    /** Finds records, in some order, or as they come where none is asked for; records that are equal in it come as they are. */
    public Found find(RecordCursor cursor, List<String> fields, List<Order> orders, int limit) {
        int[] shown = fields.stream().mapToInt(read::indexOf).toArray();
        Comparator<Met> comparator = comparator(orders);
        PriorityQueue<Met> best = new PriorityQueue<>(comparator.reversed());
        Taking taking = new Taking();
        boolean more = false;
        // without an order the first ones are the best, so the first one too many ends it
        for (long number = 0; !(more && orders.isEmpty()); number++) {
            Object[] record = cursor.next();
            if (record == null) {
                break;
            }
            if (taking.takes(record)) {
                best.add(new Met(number, record));
                if (best.size() > limit) {
                    best.poll();
                    more = true;
                }
            }
        }
        return new Found(
                best.stream()
                        .sorted(comparator)
                        .map(met -> IntStream.of(shown)
                                .mapToObj(place -> met.values()[place])
                                .toArray())
                        .toList(),
                more,
                taking.broken);
    }

    private Comparator<Met> comparator(List<Order> orders) {
        Comparator<Met> comparator = Comparator.comparingLong(Met::number);
        for (Order order : orders.reversed()) {
            int place = read.indexOf(order.field());
            Comparator<@Nullable Object> values = order.descending()
                    ? Comparator.nullsLast((a, b) -> Values.compare(b, a))
                    : Comparator.nullsLast(Values::compare);
            comparator = Comparator.comparing((Met met) -> met.values()[place], values)
                    .thenComparing(comparator);
        }
        return comparator;
    }

    /**
     * How many there are.
     *
     * @param groups the number by the values of the fields that were asked for, most first; empty where none were
     * @param broken how many records the formula could not be computed of; they are not counted
     */
    public record Counted(long count, List<Group> groups, long broken) {}

    /** Records that agree in some fields. */
    public record Group(List<@Nullable Object> values, long count) {}

    /** Counts records, also by the values of some fields. */
    public Counted count(RecordCursor cursor, List<String> by) {
        int[] places = by.stream().mapToInt(read::indexOf).toArray();
        Map<List<@Nullable Object>, long[]> groups = new TreeMap<>(this::compare);
        Taking taking = new Taking();
        long count = 0;
        for (Object[] record = cursor.next(); record != null; record = cursor.next()) {
            if (taking.takes(record)) {
                count++;
                if (places.length > 0) {
                    List<@Nullable Object> values = new ArrayList<>();
                    for (int place : places) {
                        values.add(record[place]);
                    }
                    groups.computeIfAbsent(values, any -> new long[1])[0]++;
                    requireFew(groups.size());
                }
            }
        }
        List<Group> counted = groups.entrySet().stream()
                .map(group -> new Group(group.getKey(), group.getValue()[0]))
                .sorted(Comparator.comparingLong(Group::count).reversed())
                .toList();
        return new Counted(count, counted, taking.broken);
    }

    private int compare(List<@Nullable Object> one, List<@Nullable Object> other) {
        Comparator<@Nullable Object> values = Comparator.nullsLast(Values::compare);
        for (int i = 0; i < one.size(); i++) {
            int compared = values.compare(one.get(i), other.get(i));
            if (compared != 0) {
                return compared;
            }
        }
        return 0;
    }

    private static void requireFew(int groups) {
        if (groups > MOST_GROUPS) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.BATCH_TOO_LARGE,
                    "There are more than " + MOST_GROUPS + " groups.",
                    "Count by other fields, or only some records."));
        }
    }

    /** Which records meet the formula. */
    private final class Taking {
        private final @Nullable Evaluator evaluator =
                where.map(Formula::evaluator).orElse(null);
        private final @Nullable Object[] slots = new Object[records.fields().size()];
        private final int[] places = records.fields().stream()
                .mapToInt(field -> read.indexOf(field.name()))
                .toArray();
        private long broken;

        boolean takes(@Nullable Object[] record) {
            if (evaluator == null) {
                return true;
            }
            for (int slot = 0; slot < places.length; slot++) {
                slots[slot] = places[slot] < 0 ? null : record[places[slot]];
            }
            try {
                return Boolean.TRUE.equals(evaluator.evaluate(slots));
            } catch (ValueProblem problem) {
                broken++;
                return false;
            }
        }
    }
}
