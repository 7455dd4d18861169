package dev.nachlauf.service.connection;

import dev.nachlauf.api.ConnectionTest;
import dev.nachlauf.api.FieldView;
import dev.nachlauf.api.RecordTypeView;
import dev.nachlauf.api.RecordsView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FieldMark;
import dev.nachlauf.core.system.HoldsRecords;
import dev.nachlauf.core.system.HoldsRecords.RecordType;
import dev.nachlauf.core.system.Marks;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.Reference;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.service.web.ProblemViews;
import java.util.List;
import org.springframework.stereotype.Service;

/** Looks at systems: whether they are reached, what they hold, what it demands. */
@Service
class Looking {
    private final Connections connections;

    Looking(Connections connections) {
        this.connections = connections;
    }

    ConnectionTest test(String name) {
        connections.show(name);
        try (OpenSystem system = connections.opened(name)) {
            OpenSystem.Greeting greeting = system.greet();
            return new ConnectionTest(
                    true,
                    greeting.system(),
                    greeting.signedInAs(),
                    greeting.canRead(),
                    greeting.canWrite(),
                    ProblemViews.of(greeting.cautions()));
        } catch (CannotGoOn e) {
            return new ConnectionTest(false, "", "", false, false, ProblemViews.of(e.problems()));
        }
    }

    List<RecordTypeView> records(String name) {
        try (OpenSystem system = connections.opened(name)) {
            return holding(name, system).recordTypes().stream()
                    .map(type -> new RecordTypeView(
                            type.name(),
                            type.label(),
                            type.writable(),
                            type.estimatedRecords().isPresent()
                                    ? type.estimatedRecords().getAsLong()
                                    : null))
                    .toList();
        }
    }

    RecordsView describe(String name, String records) {
        try (OpenSystem system = connections.opened(name)) {
            HoldsRecords holds = holding(name, system);
            Marks marks = connections.marks(name);
            return holds.describe(records)
                    .map(marks::on)
                    .map(found -> view(found, marks))
                    .orElseThrow(() -> {
                        List<String> known = holds.recordTypes().stream()
                                .map(RecordType::name)
                                .toList();
                        return new CannotGoOn(Problem.of(
                                ProblemCode.NOT_FOUND,
                                "The connection " + name + " has no record type " + records + ".",
                                NearestNames.suggestion(records, known, "connection records " + name + " shows all.")));
                    });
        }
    }

    private static HoldsRecords holding(String name, OpenSystem system) {
        if (system instanceof HoldsRecords holds) {
            return holds;
        }
        throw new CannotGoOn(
                Problem.of(ProblemCode.CONNECTION_UNFIT, "The connection " + name + " holds no records.", ""));
    }

    private static RecordsView view(RecordDescription description, Marks marks) {
        return new RecordsView(
                description.name(),
                description.writable(),
                description.fields().stream()
                        .map(field -> view(description, field, marks.of(description.name(), field.name())))
                        .toList(),
                description.uniqueKeys().stream().map(UniqueKey::fields).toList());
    }

    static FieldView view(RecordDescription description, FieldDescription field, FieldMark mark) {
        return new FieldView(
                field.name(),
                field.kind().word(),
                field.typeName(),
                field.length().isPresent() ? field.length().getAsInt() : null,
                field.required(),
                field.readOnly(),
                field.traits().closed(),
                field.generated(),
                !field.readOnly() && !field.traits().onChange(),
                description.primaryKey().stream().anyMatch(key -> key.fields().contains(field.name())),
                description.uniqueKeys().stream()
                        .filter(key -> key.fields().contains(field.name()))
                        .map(key -> String.join(" + ", key.fields()))
                        .distinct()
                        .toList(),
                description.references().stream()
                        .filter(reference -> reference.fields().contains(field.name()))
                        .map(Reference::parent)
                        .findFirst()
                        .orElse(null),
                field.allowed(),
                field.sensitive(),
                mark.label(),
                mark.help());
    }
}
