package dev.nachlauf.service.record;

import dev.nachlauf.api.CountedRecords;
import dev.nachlauf.api.FoundRecords;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.query.Order;
import dev.nachlauf.core.query.RecordQuestion;
import dev.nachlauf.core.query.RecordQuestion.Counted;
import dev.nachlauf.core.query.RecordQuestion.Found;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.ReadsRecords;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.system.ReadsRecords.RecordQuery;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.look.RowWatch;
import dev.nachlauf.service.web.Masked;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Finds and counts records of a system, without a job. */
@Component
class RecordQuestions {
    static final int MOST = 1_000;

    private final Connections connections;

    RecordQuestions(Connections connections) {
        this.connections = connections;
    }

    /**
     * Some records.
     *
     * @param fields those that are shown; empty for all
     * @param sort fields by which they are put in order, perhaps with {@code desc} behind them
     */
    FoundRecords find(
            String connection,
            String records,
            @Nullable String where,
            List<String> fields,
            List<String> sort,
            int limit) {
        if (limit < 1 || limit > MOST) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.REQUEST_MALFORMED, "A limit is a number from 1 to " + MOST + ".", "Ask for fewer."));
        }
        try (Asked asked = new Asked(connection, records)) {
            List<String> shown = fields.isEmpty() ? asked.fields() : fields;
            List<Order> orders = sort.stream().map(Order::of).toList();
            List<String> by = orders.stream().map(Order::field).toList();
            RecordQuestion question = asked.question(
                            where, Stream.concat(shown.stream(), by.stream()).toList())
                    .requireOpen(by);
            try (RecordCursor cursor = asked.read(question)) {
                Found found = question.find(cursor, shown, orders, limit);
                return new FoundRecords(
                        shown,
                        found.records().stream()
                                .map(record -> asked.shown(shown, record))
                                .toList(),
                        found.more(),
                        note(found.broken()));
            }
        }
    }

    /** How many records there are, also by the values of some fields. */
    CountedRecords count(String connection, String records, @Nullable String where, List<String> by) {
        try (Asked asked = new Asked(connection, records)) {
            RecordQuestion question = asked.question(where, by).requireOpen(by);
            try (RecordCursor cursor = asked.read(question)) {
                Counted counted = question.count(cursor, by);
                return new CountedRecords(
                        counted.count(),
                        by,
                        counted.groups().stream()
                                .map(group -> new CountedRecords.Group(
                                        group.values().stream()
                                                .map(Values::text)
                                                .toList(),
                                        group.count()))
                                .toList(),
                        note(counted.broken()));
            }
        }
    }

    private static String note(long broken) {
        return broken == 0
                ? ""
                : "The formula can't be computed of " + broken + (broken == 1 ? " record" : " records")
                        + "; these are left out.";
    }

    /** A record type that is asked about. */
    private final class Asked implements AutoCloseable {
        private final OpenSystem system;
        private final ReadsRecords reads;
        private final RecordDescription description;
        private final Set<String> sensitive;

        Asked(String connection, String records) {
            system = connections.opened(connection);
            try {
                if (!(system instanceof ReadsRecords readable)) {
                    throw new CannotGoOn(Problem.of(
                            ProblemCode.CONNECTION_UNFIT,
                            "The connection " + connection + " holds no records.",
                            "source preview shows what is in them."));
                }
                reads = readable;
                description = connections
                        .describe(connection, readable, records)
                        .orElseThrow(() -> new CannotGoOn(Problem.of(
                                ProblemCode.RECORDS_UNKNOWN,
                                "The connection " + connection + " has no record type " + records + ".",
                                "connection records " + connection + " shows all.")));
                sensitive = connections.marks(connection).sensitive(records);
            } catch (RuntimeException e) {
                system.close();
                throw e;
            }
        }

        List<String> fields() {
            return description.fields().stream().map(FieldDescription::name).toList();
        }

        RecordQuestion question(@Nullable String where, List<String> named) {
            return RecordQuestion.of(description, Optional.ofNullable(where), named);
        }

        RecordCursor read(RecordQuestion question) {
            return new WatchedCursor(reads.read(new RecordQuery.Records(
                    description.name(), question.read(), question.conditions(reads::canFilterBy))));
        }

        /** The values of a record as text; what is sensitive is masked. */
        List<@Nullable String> shown(List<String> fields, @Nullable Object[] values) {
            List<@Nullable String> texts = new ArrayList<>();
            for (int i = 0; i < fields.size(); i++) {
                texts.add(Masked.value(Values.text(values[i]), sensitive.contains(fields.get(i))));
            }
            return texts;
        }

        @Override
        public void close() {
            system.close();
        }
    }

    /** Rows are counted for whoever waits for the answer, and a stop is heard. */
    private record WatchedCursor(RecordCursor cursor) implements RecordCursor {
        @Override
        public List<Field> fields() {
            return cursor.fields();
        }

        @Override
        public @Nullable Object @Nullable [] next() {
            RowWatch.row();
            return cursor.next();
        }

        @Override
        public void close() {
            cursor.close();
        }
    }
}
