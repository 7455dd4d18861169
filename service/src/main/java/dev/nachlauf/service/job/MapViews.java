package dev.nachlauf.service.job;

import dev.nachlauf.api.FieldView;
import dev.nachlauf.api.JobTrial.MapLine;
import dev.nachlauf.api.JobTrial.WriteMap;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobDefinition.Mapping;
import dev.nachlauf.core.job.JobDefinition.Turn;
import dev.nachlauf.core.job.JobDefinition.Value;
import dev.nachlauf.core.job.JobDefinition.WriteRule;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Output;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.service.connection.Connections;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** The maps of a checked job for people: all fields of its targets, and what each becomes. */
final class MapViews {
    private static final String OFF = "off";

    private final Connections connections;
    private final Map<String, @Nullable Object> parameters;

    private MapViews(Connections connections, Map<String, @Nullable Object> parameters) {
        this.connections = connections;
        this.parameters = parameters;
    }

    static List<WriteMap> of(
            Plan plan, JobDefinition job, Map<String, @Nullable Object> parameters, Connections connections) {
        MapViews views = new MapViews(connections, parameters);
        List<WriteMap> maps = new ArrayList<>();
        for (int w = 0; w < plan.writes().size(); w++) {
            // a second key changes nothing of what goes where
            if (plan.writes().get(w).turn() != Turn.SECOND) {
                maps.add(views.of(plan.writes().get(w), job.writes().get(w)));
            }
        }
        return maps;
    }

    private WriteMap of(PlannedWrite write, JobDefinition.Write said) {
        String connection = JobDefinition.fill(said.connection().value(), parameters);
        Map<String, Mapping> off = said.map().stream()
                .filter(Mapping::off)
                .collect(Collectors.toMap(line -> line.field().value(), Function.identity(), (first, second) -> first));
        Map<String, FieldView> open = connections.fields(connection, write.target());
        List<MapLine> lines = new ArrayList<>();
        for (int i = 0; i < write.fields().size(); i++) {
            Output output = write.fields().get(i);
            if (output.source() instanceof Source.Kept) {
                continue;
            }
            FieldView field =
                    Objects.requireNonNull(open.remove(output.description().name()), "a field of the target");
            lines.add(new MapLine(
                    field,
                    text(output.source()),
                    word(output.rule()),
                    write.key().contains(i)));
        }
        open.values().forEach(field -> lines.add(unmapped(field, off.get(field.name()))));
        return new WriteMap(write.name(), connection, write.target().name(), lines);
    }

    private static MapLine unmapped(FieldView field, @Nullable Mapping kept) {
        String formula = kept != null && kept.value() instanceof Value.Of of
                ? of.formula().text()
                : null;
        return new MapLine(field, formula, kept == null ? "" : OFF, false);
    }

    private static String word(WriteRule rule) {
        return rule.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    private static String text(Source source) {
        return switch (source) {
            case Source.Of of -> of.formula().source().text();
            case Source.Found found -> text(found.finding());
            case Source.Kept ignored -> "";
        };
    }

    private static String text(Finding finding) {
        return "find " + finding.records() + " by "
                + finding.keys().stream()
                        .map(key -> key.field() + " = " + key.formula().source().text())
                        .collect(Collectors.joining(", "));
    }
}
