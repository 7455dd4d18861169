package dev.nachlauf.service.source;

import dev.nachlauf.api.SuggestionRequest;
import dev.nachlauf.api.SuggestionView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.Sample;
import dev.nachlauf.core.suggest.Suggester;
import dev.nachlauf.core.suggest.Suggester.Sampled;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.ReadsRecords;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.system.ReadsRecords.RecordQuery;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.connection.Connections;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Suggests pairs of source and target fields from samples of both. */
@Component
class Suggestions {
    private static final int RECORDS = 2_000;

    private final SourceRows rows;
    private final Connections connections;

    Suggestions(SourceRows rows, Connections connections) {
        this.rows = rows;
        this.connections = connections;
    }

    List<SuggestionView> of(SuggestionRequest request) {
        List<Sampled> source = new ArrayList<>();
        rows.read(request.source(), (fields, sensitive, reader) -> source.addAll(sampled(Sample.take(reader))));
        return Suggester.suggest(source, target(request.connection(), request.records())).stream()
                .map(pair -> new SuggestionView(pair.source(), pair.target(), pair.score(), pair.evidence()))
                .toList();
    }

    private static List<Sampled> sampled(Sample sample) {
        List<Sampled> fields = new ArrayList<>();
        List<SourceColumn> columns = sample.columns();
        for (int i = 0; i < columns.size(); i++) {
            Reading reading = columns.get(i).reading();
            Set<String> values = new HashSet<>();
            for (SourceRow row : sample.rows()) {
                Object cell = row.problems().isEmpty() ? row.cell(i) : null;
                if (cell != null) {
                    values.add(text(cell, reading));
                }
            }
            fields.add(new Sampled(columns.get(i).name(), reading.kind(), values));
        }
        return fields;
    }

    /** As the target would hold it, where it can be read so. */
    private static String text(Object cell, Reading reading) {
        try {
            return String.valueOf(Values.text(Reading.read(cell, reading.kind(), reading.parser())));
        } catch (ValueProblem e) {
            return String.valueOf(Values.text(cell));
        }
    }

    private List<Sampled> target(String connection, String records) {
        try (OpenSystem system = connections.opened(connection)) {
            if (!(system instanceof ReadsRecords reads)) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.CONNECTION_UNFIT,
                        "The connection " + connection + " holds no records to compare with.",
                        "Name the connection that the job is to write to."));
            }
            RecordDescription description = connections
                    .describe(connection, reads, records)
                    .orElseThrow(() -> new CannotGoOn(Problem.of(
                            ProblemCode.RECORDS_UNKNOWN,
                            "The connection " + connection + " has no record type " + records + ".",
                            "connection records " + connection + " shows all.")));
            List<FieldDescription> fields = description.fields().stream()
                    .filter(field -> !field.readOnly())
                    .toList();
            List<Set<String>> values = new ArrayList<>();
            fields.forEach(field -> values.add(new HashSet<>()));
            List<String> names = fields.stream().map(FieldDescription::name).toList();
            try (RecordCursor cursor = reads.read(new RecordQuery.Records(records, names))) {
                int seen = 0;
                for (Object[] record = cursor.next(); record != null && seen < RECORDS; record = cursor.next()) {
                    seen++;
                    add(record, values);
                }
            }
            List<Sampled> sampled = new ArrayList<>();
            for (int i = 0; i < fields.size(); i++) {
                sampled.add(new Sampled(fields.get(i).name(), fields.get(i).kind(), values.get(i)));
            }
            return sampled;
        }
    }

    private static void add(@Nullable Object[] record, List<Set<String>> values) {
        for (int i = 0; i < values.size(); i++) {
            if (record[i] != null) {
                values.get(i).add(String.valueOf(Values.text(record[i])));
            }
        }
    }
}
