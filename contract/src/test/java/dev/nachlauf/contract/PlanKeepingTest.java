package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.Chunk;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.RunObserver;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunPolicy.Purpose;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Runs of which everything is planned and kept, and nothing is sent. */
class PlanKeepingTest {
    private static final RunPolicy PLAN = new RunPolicy(Purpose.DRY_RUN, false, 100, 100_000);
    private static final RunPolicy WRITE = new RunPolicy(false, 100, 100_000);

    @TempDir
    Path scratch;

    private final MemorySystem huts = new MemorySystem(MemoryTargetTest.HUT);
    private final Kept planned = new Kept();
    private final Kept written = new Kept();

    private static Map<String, Object> values(Object... pairs) {
        Map<String, Object> values = new LinkedHashMap<>();
        for (int i = 0; i < pairs.length; i += 2) {
            values.put(pairs[i].toString(), pairs[i + 1]);
        }
        return values;
    }

    /** Huts of which some are there as they are, some otherwise, some not, and some are broken. */
    private String someHuts(long seed) {
        Random random = new Random(seed);
        StringBuilder csv = new StringBuilder("code;name;beds;status\n");
        for (int n = 0; n < 450; n++) {
            String code = "H-%04d".formatted(n);
            int beds = random.nextInt(90);
            if (random.nextInt(3) > 0) {
                huts.add(values("hut_code", code, "name", "Hut " + n, "beds", (long) random.nextInt(2) * 7 + beds));
            }
            String told = random.nextInt(20) == 0 ? "many" : String.valueOf(beds);
            csv.append("%s;Hut %d;%s;%s\n".formatted(code, n, told, random.nextInt(15) == 0 ? "closed" : ""));
        }
        return csv.toString();
    }

    private static String told(LedgerRow row) {
        return row.number() + " " + row.outcome() + " " + row.key() + " " + row.changed() + " "
                + Arrays.toString(row.before()) + " " + Arrays.toString(row.after()) + " " + row.note();
    }

    @Test
    void whatIsPlannedIsWhatThenHappens() {
        String csv = someHuts(20_261_129);
        List<Map<String, Object>> before = huts.records();
        RunResult plan = new HutLoad(huts, planned, scratch).run(csv, "", PLAN, new Quiet());
        assertThat(huts.records()).isEqualTo(before);
        assertThat(plan.state()).isEqualTo(RunState.FINISHED);
        assertThat(plan.balance().gap()).isEmpty();
        RunResult run = new HutLoad(huts, written, scratch).run(csv, "", WRITE, new Quiet());
        Counts counts = plan.balance().counts();
        assertThat(counts).isEqualTo(run.balance().counts());
        assertThat(List.of(counts.inserted(), counts.updated(), counts.unchanged(), counts.rejected()))
                .as("a plan with something of everything")
                .allMatch(count -> count > 10);
        assertThat(planned.rows(1, 3).stream().map(PlanKeepingTest::told))
                .isEqualTo(
                        written.rows(1, 3).stream().map(PlanKeepingTest::told).toList());
        assertThat(planned.chunks()).hasSize(5).allMatch(head -> head.state() == Chunk.State.PLANNED);
        assertThat(planned.rejects)
                .as("there is nothing to mend in what was not written")
                .isEmpty();
    }

    @Test
    void noIdIsTaken() {
        new HutLoad(huts, planned, scratch).run(HutLoad.huts(250), "", PLAN, new Quiet());
        assertThat(huts.add("hut", values("hut_code", "X"))).isEqualTo(1);
        assertThat(planned.rows(1, 3))
                .extracting(LedgerRow::id)
                .doesNotHaveDuplicates()
                .allMatch(id -> (Long) id < 0);
    }

    @Test
    void aLimitEndsNoPlanButIsTold() {
        String csv = HutLoad.huts(90) + "H-91;x;many;\n".repeat(10);
        String limit = "limits: { rejected: 5% }\n";
        RunResult plan = new HutLoad(huts, planned, scratch).run(csv, limit, PLAN, new Quiet());
        assertThat(plan.state()).isEqualTo(RunState.FINISHED);
        assertThat(plan.balance().counts().inserted()).isEqualTo(90);
        assertThat(plan.warnings()).extracting(Problem::code).containsExactly(ProblemCode.LIMIT_FORESEEN);
        RunPolicy review = new RunPolicy(Purpose.REVIEW, false, 100, 100_000);
        RunResult held = new HutLoad(huts, written, scratch).run(csv, limit, review, new Quiet());
        assertThat(held.state()).isEqualTo(RunState.HELD);
        assertThat(held.reasons())
                .extracting(Problem::code)
                .containsExactly(ProblemCode.HELD_FOR_REVIEW, ProblemCode.LIMIT_CROSSED);
        assertThat(huts.records()).isEmpty();
    }

    private static final String ORDERS = "no;hut;line;article\n"
            + "O-1;H-1;1;flour\nO-2;H-2;1;rope\nO-1;H-1;2;gas\nO-3;H-3;1;wood\nO-2;H-2;2;lamp\nO-1;H-1;3;salt\n";

    @Test
    void linesSeeTheHeadersThatAreOnlyPlanned() throws IOException {
        MemorySystem shop = new MemorySystem(Orders.ORDER, Orders.LINE);
        long known = shop.add("order", values("order_no", "O-2", "hut", "H-9"));
        shop.add("line", values("order_id", known, "line_no", 2L, "article", "lamp"));
        RunResult plan = new Orders(shop, planned, scratch).load(ORDERS, "", PLAN, new Quiet());
        RunResult run = new Orders(shop, written, scratch).load(ORDERS, "", WRITE, new Quiet());
        assertThat(plan.balance().gap()).isEmpty();
        assertThat(plan.balance().counts()).isEqualTo(run.balance().counts());
        assertThat(plan.balance().tally()).isEqualTo(run.balance().tally());
        assertThat(plan.balance().tally().writes().get(1).inserted()).isEqualTo(5);
        assertThat(plan.balance().tally().writes().get(1).unchanged()).isEqualTo(1);
        List<LedgerRow> lines = planned.rows(2, 3);
        Object order = lines.stream()
                .filter(row -> row.write() == 0 && row.key().equals(List.of("O-1")))
                .findFirst()
                .orElseThrow()
                .id();
        assertThat(lines.stream()
                        .filter(row -> row.write() == 1 && row.key().getFirst().equals(order))
                        .count())
                .as("lines of the planned order")
                .isEqualTo(3);
    }

    private static final String SECOND_WRITE = """
            nachlauf: 1
            job: huts
            read: { connection: inbox, file: huts.csv }
            write:
              - name: list
                connection: register
                records: hut
                when: status is null
                action: upsert
                key: [hut_code]
                map: { hut_code: code, name: name, beds: beds }
              - name: closing
                connection: register
                records: hut
                when: status = 'closed'
                action: update
                key: [name]
                map: { name: name, beds: beds }
            """;

    private RunResult twice(Kept kept, RunPolicy policy, Quiet observer) {
        String csv = "code;name;beds;status\nH-1;Larch;8;\nH-2;Fern;9;\nH-3;Stone;5;closed\nH-1;Larch;0;closed\n"
                + "H-9;Nobody;0;closed\n";
        return new HutLoad(huts, kept, scratch).of(SECOND_WRITE).run(csv, "", policy, observer);
    }

    @Test
    void aSecondWriteFindsWhatTheFirstOnePlanned() {
        huts.add(values("hut_code", "H-2", "name", "Old fern", "beds", 9L));
        huts.add(values("hut_code", "H-3", "name", "Stone", "beds", 4L));
        RunResult plan = twice(planned, new RunPolicy(Purpose.DRY_RUN, false, 1, 100_000), new Quiet());
        assertThat(huts.records()).hasSize(2);
        RunResult run = twice(written, new RunPolicy(false, 1, 100_000), new Quiet());
        assertThat(plan.balance()).isEqualTo(run.balance());
        assertThat(planned.rows(1, 3).stream().map(PlanKeepingTest::told))
                .isEqualTo(
                        written.rows(1, 3).stream().map(PlanKeepingTest::told).toList());
        assertThat(planned.rows(1, 3))
                .extracting(LedgerRow::outcome)
                .containsExactly(Outcome.INSERTED, Outcome.UPDATED, Outcome.UPDATED, Outcome.UPDATED, Outcome.REJECTED);
        LedgerRow closing = planned.rows(1, 3).get(3);
        assertThat(closing.before()[1])
                .as("as it is planned, not as it is stored")
                .isEqualTo(8L);
    }

    @Test
    void numbersOfNewRecordsGoOnWhereAPlanWasInterrupted() {
        Quiet observer = Quiet.dyingAt(RunObserver.Point.BEFORE_LEDGER, 2);
        HutLoad load = new HutLoad(huts, planned, scratch);
        assertThatThrownBy(() -> load.run(HutLoad.huts(450), "", PLAN, observer))
                .isInstanceOf(CannotGoOn.class);
        assertThat(load.run(HutLoad.huts(450), "", PLAN, observer).state()).isEqualTo(RunState.FINISHED);
        assertThat(planned.rows(1, 3))
                .hasSize(450)
                .extracting(LedgerRow::id)
                .doesNotHaveDuplicates()
                .allMatch(id -> (Long) id < 0);
    }

    @Test
    void aPlanThatIsInterruptedGoesOnWithWhatItKnows() {
        huts.add(values("hut_code", "H-3", "name", "Stone", "beds", 4L));
        Quiet observer = Quiet.dyingAt(RunObserver.Point.BEFORE_LEDGER, 3);
        RunPolicy plan = new RunPolicy(Purpose.DRY_RUN, false, 1, 100_000);
        assertThatThrownBy(() -> twice(planned, plan, observer)).isInstanceOf(CannotGoOn.class);
        assertThat(planned.chunks()).hasSize(3);
        RunResult result = twice(planned, plan, observer);
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().gap()).isEmpty();
        assertThat(planned.rows(1, 3))
                .extracting(LedgerRow::outcome)
                .containsExactly(
                        Outcome.INSERTED, Outcome.INSERTED, Outcome.UPDATED, Outcome.UPDATED, Outcome.REJECTED);
    }

    private static final String LIKE_ANOTHER = """
            nachlauf: 1
            job: huts
            read: { connection: inbox, file: huts.csv }
            write:
              connection: register
              records: hut
              action: upsert
              key: [hut_code]
              map: { hut_code: code, name: name, beds: { find: hut, by: { name: beds }, bring: beds } }
            """;

    private RunResult likeAnother(Kept kept, boolean planOnly) {
        String csv = "code;name;beds;status\nH-1;Larch;Stone;\nH-2;Fern;Larch;\nH-3;Moss;Fern;\nH-4;Ivy;Nobody;\n";
        RunPolicy oneByOne = new RunPolicy(planOnly ? Purpose.DRY_RUN : Purpose.WRITE, false, 1, 100_000);
        return new HutLoad(huts, kept, scratch).of(LIKE_ANOTHER).run(csv, "", oneByOne, new Quiet());
    }

    @Test
    void aReferenceFindsARecordThatIsOnlyPlanned() {
        huts.add(values("hut_code", "H-0", "name", "Stone", "beds", 12L));
        RunResult plan = likeAnother(planned, true);
        assertThat(huts.records()).hasSize(1);
        assertThat(planned.rows(1, 3))
                .filteredOn(row -> row.outcome() == Outcome.INSERTED)
                .extracting(row -> row.after()[2])
                .containsExactly(12L, 12L, 12L);
        assertThat(plan.balance()).isEqualTo(likeAnother(written, false).balance());
    }
}
