package dev.nachlauf.contract;

import static dev.nachlauf.contract.HutLoad.hut;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.contract.memory.RecordSystem;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.Reject;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunPolicy.Purpose;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Runs that are sent to a target which keeps nothing of them. */
class RehearsalTest {
    private static final RunPolicy REHEARSE = new RunPolicy(Purpose.REHEARSAL, false, 2, 100_000);
    private static final RunPolicy WRITE = new RunPolicy(false, 2, 100_000);
    private static final String HEADER = "code;name;beds;status\n";
    private static final String ROWS =
            HEADER + "H-1;Larch;8;\nH-2;Fern;many;\nH-3;Stone;60;\nH-4;Birch;9;\nH-5;Moss;1;\n";

    @TempDir
    Path scratch;

    private final MemorySystem huts = new MemorySystem(MemoryTargetTest.HUT);
    private final Kept rehearsed = new Kept();
    private final Kept written = new Kept();

    private static Optional<Problem> fewBeds(Map<String, Object> values) {
        return ((Long) values.get("beds")) > 50
                ? Optional.of(Problem.of(ProblemCode.CHECK_FAILED, "The register takes at most 50 beds.", ""))
                : Optional.empty();
    }

    @Test
    void whatOnlyTheTargetRefusesIsToldApartAndNothingIsKept() {
        huts.refuse(RehearsalTest::fewBeds);
        huts.add(hut("H-4", "Birch", 3));
        List<Map<String, Object>> before = huts.records();
        RunResult rehearsal = new HutLoad(huts, rehearsed, scratch).run(ROWS, "", REHEARSE, new Quiet());
        assertThat(huts.records()).isEqualTo(before);
        assertThat(rehearsal.state()).isEqualTo(RunState.FINISHED);
        assertThat(rehearsal.balance().gap()).isEmpty();
        assertThat(rehearsed.rejects).as("there is nothing to mend").isEmpty();
        assertThat(rehearsed.foreseen).extracting(Reject::number).containsExactly(2L, 3L);
        assertThat(rehearsed.foreseen).extracting(Reject::byTarget).containsExactly(false, true);
        RunResult run = new HutLoad(huts, written, scratch).run(ROWS, "", WRITE, new Quiet());
        Counts counts = run.balance().counts();
        assertThat(rehearsal.balance().counts()).isEqualTo(counts);
        assertThat(List.of(counts.inserted(), counts.updated())).containsExactly(2L, 1L);
        assertThat(written.rejects).extracting(Reject::byTarget).containsExactlyInAnyOrder(false, true);
    }

    @Test
    void linesSeeHeadersThatAnEarlierBatchHasSent() throws IOException {
        String csv =
                "no;hut;line;article\nO-1;H-1;1;flour\nO-2;H-2;1;rope\nO-1;H-1;2;gas\nO-3;H-3;1;wood\nO-2;H-2;2;lamp\n";
        MemorySystem shop = new MemorySystem(Orders.ORDER, Orders.LINE);
        RunResult rehearsal = new Orders(shop, rehearsed, scratch).load(csv, "", REHEARSE, new Quiet());
        assertThat(shop.records("order")).isEmpty();
        assertThat(shop.records("line")).isEmpty();
        assertThat(rehearsal.balance().gap()).isEmpty();
        assertThat(rehearsal.balance().tally().writes().get(1).inserted()).isEqualTo(5);
    }

    @Test
    void removalsAreSentAndNewRecordsAreNotAmongThem() {
        String job = """
                nachlauf: 1
                job: huts
                read: { connection: inbox, file: huts.csv }
                write:
                  name: hut
                  connection: register
                  records: hut
                  action: replace
                  key: [hut_code]
                  map: { hut_code: code, name: name, beds: beds }
                %s
                """;
        huts.add(hut("H-8", "Rowan", 2));
        huts.add(hut("H-9", "Alder", 2));
        List<Map<String, Object>> before = huts.records();
        RunResult rehearsal = new HutLoad(huts, rehearsed, scratch).of(job).run(ROWS, "", REHEARSE, new Quiet());
        assertThat(rehearsal.state()).isEqualTo(RunState.FINISHED);
        assertThat(rehearsal.balance().counts().inserted()).isEqualTo(4);
        assertThat(rehearsal.balance().tally().removals().getFirst().deleted()).isEqualTo(2);
        assertThat(huts.records()).isEqualTo(before);
    }

    @Test
    void oneThatWasInterruptedBeginsAnew() {
        rehearsed.failAt = 1;
        HutLoad load = new HutLoad(huts, rehearsed, scratch);
        assertThatThrownBy(() -> load.run(ROWS, "", REHEARSE, new Quiet())).isInstanceOf(CannotGoOn.class);
        assertThat(rehearsed.chunks()).hasSize(1);
        rehearsed.failAt = -1;
        RunResult rehearsal = load.run(ROWS, "", REHEARSE, new Quiet());
        assertThat(rehearsal.balance().gap()).isEmpty();
        assertThat(rehearsal.balance().counts().inserted()).isEqualTo(4);
        assertThat(huts.records()).isEmpty();
    }

    @Test
    void whatKeepsEachRecordCannotBeRehearsed() {
        RecordSystem each = new RecordSystem(MemoryTargetTest.HUT);
        HutLoad load = new HutLoad(each, rehearsed, scratch);
        assertThatThrownBy(() -> load.run(ROWS, "", REHEARSE, new Quiet()))
                .isInstanceOf(CannotGoOn.class)
                .hasMessageContaining("The connection register keeps what it takes");
        assertThat(each.records()).isEmpty();
    }
}
