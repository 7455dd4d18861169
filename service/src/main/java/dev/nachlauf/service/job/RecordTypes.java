package dev.nachlauf.service.job;

import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.HoldsRecords;
import dev.nachlauf.core.system.Marks;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.connection.OpenedSystems;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Looks at the record types that a job names, with the marks that its connections put on them. */
record RecordTypes(
        Connections connections, OpenedSystems open, Map<String, @Nullable Object> parameters, List<Problem> problems) {
    /** What a system says of a record type; empty where it has none of the name, which is said. */
    Optional<RecordDescription> described(
            HoldsRecords system, Placed<String> connection, Placed<String> records, boolean written) {
        String place = JobDefinition.fill(connection.value(), parameters);
        String wanted = JobDefinition.fill(records.value(), parameters);
        Marks marks = connections.marks(place);
        Optional<RecordDescription> description = open.describe(system, wanted);
        if (description.isEmpty()) {
            List<String> known = system.recordTypes().stream()
                    .map(HoldsRecords.RecordType::name)
                    .toList();
            problems.add(Problem.at(
                    records.place(),
                    ProblemCode.RECORDS_UNKNOWN,
                    "The connection " + place + " has no record type " + wanted + ".",
                    NearestNames.suggestion(wanted, known, "It has: " + String.join(", ", known) + ".")));
        } else if (written && !description.get().writable()) {
            problems.add(Problem.at(
                    records.place(),
                    ProblemCode.RECORDS_READ_ONLY,
                    "The account may not write " + wanted + ".",
                    "Ask for the rights to insert and update."));
        }
        description.ifPresent(found -> checkMarks(connection, place, marks, found));
        return description.map(marks::on);
    }

    private void checkMarks(Placed<String> connection, String place, Marks marks, RecordDescription found) {
        marks.unknown(found)
                .forEach(field -> problems.add(Problem.at(
                        connection.place(),
                        ProblemCode.MARK_UNKNOWN,
                        "The connection " + place + " marks " + found.name() + "." + field
                                + ", but there is no such field.",
                        NearestNames.suggestion(
                                field,
                                found.fields().stream()
                                        .map(FieldDescription::name)
                                        .toList(),
                                "Correct the connection's marks."))));
    }
}
