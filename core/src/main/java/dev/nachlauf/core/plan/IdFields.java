package dev.nachlauf.core.plan;

import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.PlannedWrite.Output;
import dev.nachlauf.core.plan.PlannedWrite.Result;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * Fields that may hold the id of a record which the same run makes. While a run is only planned, that id isn't known: the
 * field holds a number in its place.
 */
public final class IdFields {
    private final Plan plan;
    private final List<List<String>> fields = new ArrayList<>();
    private final List<String> computed = new ArrayList<>();
    /** Slots that hold such an id. */
    private final Set<Integer> slots = new HashSet<>();

    private IdFields(Plan plan) {
        this.plan = plan;
    }

    /** Those of a plan. */
    public static IdFields of(Plan plan) {
        IdFields ids = new IdFields(plan);
        plan.writes().forEach(ids::add);
        return ids;
    }

    /** The names of the fields that hold such an id as it is, by write. */
    public List<List<String>> fields() {
        return fields;
    }

    /** Fields that are computed from such an id, each with the name of its write: only a run that writes knows them. */
    public List<String> computed() {
        return computed;
    }

    private void add(PlannedWrite write) {
        List<String> own = new ArrayList<>();
        for (Output output : write.fields()) {
            String name = output.description().name();
            switch (output.source()) {
                case Source.Kept ignored -> {
                    // nothing is written
                }
                case Source.Found found -> {
                    if (isId(found.finding())) {
                        own.add(name);
                    }
                }
                case Source.Of of -> {
                    if (of.formula().slots().stream().noneMatch(slots::contains)) {
                        break;
                    }
                    if (of.formula().isField() && !output.fromText()) {
                        own.add(name);
                    } else {
                        computed.add(write.name() + "." + name);
                    }
                }
            }
        }
        fields.add(List.copyOf(own));
        for (Result result : write.results()) {
            if (result.field() < 0 || own.contains(write.fieldNames().get(result.field()))) {
                slots.add(result.slot());
            }
        }
    }

    /** Whether what a reference brings is the id of a record type that this plan writes. */
    private boolean isId(Finding finding) {
        return plan.writes().stream()
                .filter(write -> write.connection().equals(finding.connection())
                        && write.target().name().equals(finding.records()))
                .flatMap(write -> write.target().primaryKey().stream())
                .anyMatch(id -> finding.wanted().containsAll(id.fields()));
    }
}
