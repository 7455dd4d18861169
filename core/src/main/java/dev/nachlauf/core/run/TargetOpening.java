package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Stream;

/**
 * What a write opens its target with.
 *
 * @param connection its name in the job
 */
record TargetOpening(String connection, RecordDescription records, TargetUse use) {
    /** Those of a plan. */
    static List<TargetOpening> of(Plan plan) {
        Stream<TargetOpening> writes =
                plan.writes().stream().map(write -> new TargetOpening(write.connection(), write.target(), write.use()));
        Stream<TargetOpening> removals = plan.replacing().stream()
                .map(write -> new TargetOpening(
                        write.connection(),
                        write.target(),
                        write.removal().orElseThrow().use()));
        return Stream.concat(writes, removals).toList();
    }

    /**
     * Those of a run of which only the ledger is known.
     *
     * @throws CannotGoOn where a record type is gone, or a field that was written
     */
    static List<TargetOpening> of(LedgerWrites writes, Function<String, Writes> systems) {
        return writes.writes().stream().map(write -> of(write, systems)).toList();
    }

    private static TargetOpening of(LedgerWrites.Write write, Function<String, Writes> systems) {
        RecordDescription records = systems.apply(write.connection())
                .describe(write.records(), write.fields())
                .orElseThrow(() -> changed(write, "the record type is gone"));
        List<String> there =
                records.fields().stream().map(FieldDescription::name).toList();
        List<String> gone =
                write.fields().stream().filter(field -> !there.contains(field)).toList();
        if (!gone.isEmpty()) {
            throw changed(write, "the fields " + String.join(", ", gone) + " are gone");
        }
        return new TargetOpening(write.connection(), records, new TargetUse(write.key(), write.fields()));
    }

    private static CannotGoOn changed(LedgerWrites.Write write, String how) {
        return new CannotGoOn(Problem.of(
                ProblemCode.TARGET_CHANGED,
                write.target() + " is no longer as it was when the run wrote to it: " + how + ".",
                "Look at the run's ledger; it still holds all values."));
    }

    /** Whether records have an id that is no written field. */
    boolean hasIdOfItsOwn() {
        return records.primaryKey()
                .map(UniqueKey::fields)
                .filter(id -> id.size() == 1 && !use.fields().containsAll(id))
                .isPresent();
    }
}
