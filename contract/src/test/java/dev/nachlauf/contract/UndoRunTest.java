package dev.nachlauf.contract;

import static dev.nachlauf.contract.HutLoad.hut;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.contract.memory.RecordSystem;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.plan.Grouping;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.LedgerWrites;
import dev.nachlauf.core.run.RunObserver;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.core.run.UndoRun;
import dev.nachlauf.core.system.Writes;
import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Runs that take back what another run has written. */
class UndoRunTest {
    private static final RunPolicy BY_100 = new RunPolicy(false, 100, 100_000);

    /** Stands in a field that the load never writes. */
    private static final LocalDate MAY = LocalDate.of(2026, 5, 1);

    @TempDir
    Path scratch;

    private final MemorySystem huts = new MemorySystem(MemoryTargetTest.HUT);
    private final Kept load = new Kept();
    private final Kept undo = new Kept();
    private final Kept again = new Kept();

    private static Map<String, Object> opening(String code, String name, long beds, LocalDate opens) {
        Map<String, Object> values = hut(code, name, beds);
        values.put("opens", opens);
        return values;
    }

    private LedgerWrites writes(Writes system) {
        return new HutLoad(system, load, scratch).writes();
    }

    /** With a field that the load doesn't know. */
    private LedgerWrites wider(Writes system) {
        LedgerWrites.Write write = writes(system).writes().getFirst();
        return new LedgerWrites(
                List.of(new LedgerWrites.Write(
                        write.name(),
                        write.connection(),
                        write.records(),
                        write.key(),
                        List.of("hut_code", "name", "beds", "opens"),
                        true)),
                Grouping.NONE);
    }

    private RunResult undo(Writes system, Kept from, LedgerWrites writes, UndoRun.Undone undone, RunObserver observer) {
        RunResult result = new UndoRun("2", 1, writes, undone, connection -> system, from, observer, BY_100).execute();
        assertThat(result.balance().gap()).isEmpty();
        return result;
    }

    private RunResult undo(Writes system, Predicate<LedgerRow> chosen, Set<String> fields, RunObserver observer) {
        return undo(system, undo, wider(system), new UndoRun.Undone(writes(system), load, chosen, fields), observer);
    }

    private static LedgerWrites lastFirst(LedgerWrites writes) {
        return new LedgerWrites(writes.writes().reversed(), writes.grouping());
    }

    private void load(Writes system, String csv) {
        new HutLoad(system, load, scratch).run(csv, "", BY_100, new Quiet());
    }

    private static final String SPRING =
            "code;name;beds;status\nH-1;Larch;8;\nH-2;Fern;9;\nH-3;Stone;5;\nH-4;Moss;many;\nH-6;Oak;3;\n";

    private List<Map<String, Object>> before() {
        huts.add(opening("H-2", "Old fern", 4, MAY));
        huts.add(opening("H-3", "Stone", 5, MAY));
        return huts.records();
    }

    @Test
    void everythingIsAsItWasBefore() {
        List<Map<String, Object>> before = before();
        load(huts, SPRING);
        assertThat(huts.records()).hasSize(4);
        RunResult result = undo(huts, line -> true, Set.of(), new Quiet());
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(huts.records()).isEqualTo(before);
        assertThat(result.balance().read()).isEqualTo(3);
        assertThat(result.balance().counts().deleted()).isEqualTo(2);
        assertThat(result.balance().counts().updated()).isEqualTo(1);
        assertThat(undo.rejects).isEmpty();
    }

    @Test
    void whatWasChangedSinceIsReportedAndLeftAlone() {
        before();
        load(huts, SPRING);
        huts.change("hut_code", "H-1", "beds", 80L);
        huts.change("hut_code", "H-2", "name", "New fern");
        huts.change("hut_code", "H-6", "opens", LocalDate.of(2026, 6, 1));
        undo(huts, line -> true, Set.of(), new Quiet());
        assertThat(huts.records())
                .containsExactlyInAnyOrder(
                        hut("H-1", "Larch", 80), opening("H-2", "New fern", 9, MAY), opening("H-3", "Stone", 5, MAY));
        assertThat(undo.rejects)
                .extracting(reject ->
                        reject.key() + " " + reject.problems().getFirst().code())
                .containsExactly("H-1 CHANGED_SINCE_WRITTEN", "H-2 CHANGED_SINCE_WRITTEN");
    }

    @Test
    void anUndoCanBeUndone() {
        before();
        load(huts, SPRING);
        huts.change("hut_code", "H-6", "opens", LocalDate.of(2026, 6, 1));
        undo(huts, line -> true, Set.of(), new Quiet());
        RunResult result = undo(
                huts, again, wider(huts), new UndoRun.Undone(wider(huts), undo, line -> true, Set.of()), new Quiet());
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(huts.records())
                .as("with what the load never wrote")
                .containsExactlyInAnyOrder(
                        opening("H-1", "Larch", 8, null),
                        opening("H-2", "Fern", 9, MAY),
                        opening("H-3", "Stone", 5, MAY),
                        opening("H-6", "Oak", 3, LocalDate.of(2026, 6, 1)));
        Set<Long> ids = huts.recordsById("hut").keySet();
        assertThat(again.rows(1, 4))
                .filteredOn(line -> line.outcome() == Outcome.INSERTED)
                .hasSize(2)
                .as("new ids are told")
                .allMatch(line -> ids.contains((Long) line.id()));
    }

    @Test
    void chosenRecordsAndChosenFieldsGoBackAlone() {
        before();
        load(huts, SPRING);
        undo(huts, line -> line.key().equals(List.of("H-1")), Set.of(), new Quiet());
        assertThat(huts.records())
                .extracting(hut -> hut.get("hut_code"))
                .containsExactlyInAnyOrder("H-2", "H-3", "H-6");
        RunResult fields = undo(
                huts,
                again,
                wider(huts),
                new UndoRun.Undone(writes(huts), load, line -> true, Set.of("beds")),
                new Quiet());
        assertThat(fields.balance().read())
                .as("new records have no field that could go back")
                .isEqualTo(1);
        assertThat(huts.records()).contains(opening("H-2", "Fern", 4, MAY));
    }

    @ParameterizedTest
    @EnumSource(
            value = RunObserver.Point.class,
            names = {"BETWEEN_COMMITS"},
            mode = EnumSource.Mode.EXCLUDE)
    void goesOnAfterACrash(RunObserver.Point where) {
        load(huts, HutLoad.huts(450));
        Quiet observer = Quiet.dyingAt(where, 3);
        assertThatThrownBy(() -> undo(huts, line -> true, Set.of(), observer)).isInstanceOf(CannotGoOn.class);
        assertThat(huts.records().size()).isBetween(100, 350);
        RunResult result = undo(huts, line -> true, Set.of(), observer);
        assertThat(result.balance().counts().deleted()).isEqualTo(450);
        assertThat(huts.records()).isEmpty();
        assertThat(undo.rejects).isEmpty();
    }

    @Test
    void recordsAreTakenBackOneByOneWhereTheTargetTakesThemSo() {
        RecordSystem office = new RecordSystem(MemoryTargetTest.HUT);
        office.add(opening("H-2", "Old fern", 4, MAY));
        load(office, SPRING);
        office.change("hut_code", "H-6", "beds", 30L);
        RunResult result = undo(office, line -> true, Set.of(), new Quiet());
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(office.records()).containsExactly(opening("H-2", "Old fern", 4, MAY), hut("H-6", "Oak", 30));
        assertThat(undo.rejects).extracting(reject -> reject.key()).containsExactly("H-6");
    }

    @Test
    void childrenGoBeforeTheirParents() throws IOException {
        MemorySystem shop = new MemorySystem(Orders.ORDER, Orders.LINE);
        Orders orders = new Orders(shop, load, scratch);
        orders.load("no;hut;line;article\nO-1;H-1;1;flour\nO-1;H-1;2;gas\nO-3;H-3;1;wood\n", "", BY_100, new Quiet());
        assertThat(shop.recordsById("line")).hasSize(3);
        RunResult result = undo(
                shop,
                undo,
                lastFirst(orders.writes()),
                new UndoRun.Undone(orders.writes(), load, line -> true, Set.of()),
                new Quiet());
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(shop.recordsById("order")).isEmpty();
        assertThat(shop.recordsById("line")).isEmpty();
        assertThat(result.balance().tally().writes())
                .extracting(write -> write.deleted())
                .containsExactly(3L, 2L);
        assertThat(undo.rows(2, 3)).extracting(LedgerRow::outcome).containsOnly(Outcome.DELETED);
    }
}
