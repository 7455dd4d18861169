package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.connectors.format.delimited.DelimitedFormat;
import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.run.LoadRun;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.core.step.Found;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Kind;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** One job that writes to two systems, and what becomes of a batch that only one of them has committed. */
class SeveralConnectionsTest {
    private static final RecordDescription HUT = type("hut", "hut_id", "code", "name");
    private static final RecordDescription SIGN = type("sign", "sign_id", "code", "hut_id", "text");
    private static final String JOB = """
            nachlauf: 1
            job: signs
            read: { connection: inbox, file: signs.csv }
            write:
              - name: hut
                connection: register
                records: hut
                action: upsert
                key: [code]
                map: { code: code, name: name }
              - name: sign
                connection: paint-shop
                records: sign
                when: text is not null
                action: upsert
                key: [code]
                map: { code: code, hut_id: cast(hut.hut_id as text), text: text }
            """;
    private static final String SIGNS = "code;name;text\nH-1;Larch;Open\nH-2;Stone;\nH-3;Fern;Closed\n";

    @TempDir
    Path scratch;

    private final MemorySystem register = new MemorySystem(HUT);
    private final MemorySystem paintShop = new MemorySystem(SIGN);
    private final Kept kept = new Kept();
    /** The batch after whose first commit the run is interrupted; -1 for none. */
    private int interrupted = -1;

    private static RecordDescription type(String name, String id, String... fields) {
        List<FieldDescription> described = new ArrayList<>();
        described.add(FieldDescription.plain(id, Kind.INTEGER));
        for (String field : fields) {
            described.add(FieldDescription.plain(field, Kind.TEXT));
        }
        return new RecordDescription(
                name,
                true,
                described,
                List.of(new UniqueKey("id", List.of(id), true), new UniqueKey("code", List.of("code"), false)),
                List.of());
    }

    @BeforeEach
    void records() {
        register.add("hut", values("code", "H-1", "name", "Old larch"));
        paintShop.add("sign", values("code", "H-1", "hut_id", "1", "text", "Closed"));
    }

    private static Map<String, Object> values(String... pairs) {
        Map<String, Object> values = new LinkedHashMap<>();
        for (int i = 0; i < pairs.length; i += 2) {
            values.put(pairs[i], pairs[i + 1]);
        }
        return values;
    }

    private static Plan plan() {
        List<Problem> problems = new ArrayList<>();
        List<SourceColumn> columns = Stream.of("code", "name", "text")
                .map(name -> SourceColumn.text(new SourceField(name, "")))
                .toList();
        return JobFile.read(new SourceText("signs.yaml", JOB), problems)
                .flatMap(job -> Planner.plan(
                        job,
                        Surroundings.NONE,
                        columns,
                        (connection, records, written, found) ->
                                Optional.of(records.value().equals("hut") ? HUT : SIGN),
                        problems))
                .orElseThrow(() -> new AssertionError(problems));
    }

    private RunResult run(int batchRows) throws IOException {
        Path file = scratch.resolve("signs.csv");
        Files.writeString(file, SIGNS);
        return new LoadRun(
                        "1",
                        1,
                        plan(),
                        () -> new DelimitedFormat().read(SourceBytes.of("signs.csv", file), FormatOptions.NONE),
                        connection -> connection.equals("register") ? register : paintShop,
                        kept,
                        new Quiet() {
                            @Override
                            public void reached(Point point, int batch) {
                                if (point == Point.BETWEEN_COMMITS && batch == interrupted) {
                                    throw new CannotGoOn(Problem.of(ProblemCode.UNREACHABLE, "Interrupted.", ""));
                                }
                            }
                        },
                        new RunPolicy(false, batchRows, 100_000),
                        (finding, keys) ->
                                keys.stream().map(key -> Found.NOTHING).toList(),
                        scratch)
                .execute();
    }

    private void interruptedBetweenTheCommits(int batchRows) {
        interrupted = 0;
        assertThatThrownBy(() -> run(batchRows)).isInstanceOf(CannotGoOn.class);
        interrupted = -1;
        assertThat(huts()).contains("H-1 Larch");
        assertThat(signs()).containsExactly("H-1 Closed");
    }

    private List<String> huts() {
        return register.records().stream()
                .map(hut -> hut.get("code") + " " + hut.get("name"))
                .toList();
    }

    private List<String> signs() {
        return paintShop.records().stream()
                .map(sign -> sign.get("code") + " " + sign.get("text"))
                .toList();
    }

    /** The ledger, line by line. */
    private List<String> ledger() {
        return kept.rows(1, 3).stream()
                .map(row -> row.number() + " " + row.write() + " "
                        + row.outcome().name().toLowerCase(java.util.Locale.ROOT))
                .toList();
    }

    private static final List<String> ALL_WRITTEN =
            List.of("1 0 updated", "1 1 updated", "2 0 inserted", "3 0 inserted", "3 1 inserted");

    @Test
    void rowsGoWhereTheirConditionsSendThemAndCarryWhatTheOtherSystemGave() throws IOException {
        RunResult result = run(100);
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().gap()).isEmpty();
        assertThat(huts()).containsExactly("H-1 Larch", "H-2 Stone", "H-3 Fern");
        assertThat(signs()).containsExactly("H-1 Open", "H-3 Closed");
        Object fern = register.lookUp(
                        "hut", List.of("code"), List.of("hut_id"), List.<Object[]>of(new Object[] {"H-3"}))
                .getFirst()
                .values()[0];
        assertThat(paintShop.records().getLast().get("hut_id")).isEqualTo(String.valueOf(fern));
        assertThat(ledger()).isEqualTo(ALL_WRITTEN);
    }

    @Test
    void whatOneSystemRefusesTheOtherDoesNotKeep() throws IOException {
        paintShop.refuse(values -> "Closed".equals(values.get("text"))
                ? Optional.of(Problem.of(ProblemCode.CHECK_FAILED, "No such sign.", ""))
                : Optional.empty());
        RunResult result = run(100);
        assertThat(huts()).containsExactly("H-1 Larch", "H-2 Stone");
        assertThat(signs()).containsExactly("H-1 Open");
        assertThat(ledger()).contains("3 0 rejected", "3 1 rejected");
        assertThat(result.balance().gap()).isEmpty();
        assertThat(kept.rejects).extracting(reject -> reject.number()).containsExactly(3L);
    }

    @Test
    void aBatchThatOneSystemHasAndTheOtherHasNotIsBroughtToItsEnd() throws IOException {
        interruptedBetweenTheCommits(100);
        RunResult result = run(100);
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().gap()).isEmpty();
        assertThat(huts()).as("nothing is written twice").containsExactly("H-1 Larch", "H-2 Stone", "H-3 Fern");
        assertThat(signs()).containsExactly("H-1 Open", "H-3 Closed");
        assertThat(ledger())
                .as("what really happened, not that all was found unchanged")
                .isEqualTo(ALL_WRITTEN);
        assertThat(kept.rejects).isEmpty();
    }

    @Test
    void everyBatchIsSettledByItself() throws IOException {
        interruptedBetweenTheCommits(1);
        RunResult result = run(1);
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(signs()).containsExactly("H-1 Open", "H-3 Closed");
        assertThat(ledger()).isEqualTo(ALL_WRITTEN);
    }

    @Test
    void aRecordThatSomebodyChangedInBetweenIsNotTrampled() throws IOException {
        interruptedBetweenTheCommits(100);
        paintShop.change("code", "H-1", "text", "Burnt down");
        RunResult result = run(100);
        assertThat(signs()).containsExactly("H-1 Burnt down", "H-3 Closed");
        assertThat(huts()).contains("H-1 Larch");
        assertThat(ledger())
                .containsExactly("1 0 updated", "1 1 rejected", "2 0 inserted", "3 0 inserted", "3 1 inserted");
        assertThat(kept.rejects).singleElement().satisfies(reject -> {
            assertThat(reject.number()).isEqualTo(1);
            assertThat(reject.cells()).containsExactly("H-1", "Larch", "Open");
            assertThat(reject.problems())
                    .extracting(Problem::code)
                    .containsExactly(ProblemCode.CHANGED_MEANWHILE, ProblemCode.HALF_WRITTEN);
            assertThat(reject.problems().getLast().sentence())
                    .isEqualTo("The run was interrupted after it had written register hut and before it had written"
                            + " paint-shop.");
        });
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().gap()).isEmpty();
        assertThat(result.balance().counts().updated()).isEqualTo(1);
        assertThat(result.balance().tally().writes().get(1).refused()).isEqualTo(1);
        assertThat(result.balance().tally().elsewhere())
                .as("rejected, though not by the main write")
                .isEqualTo(1);
    }

    @Test
    void aRecordThatSomebodyAddedInBetweenIsNotDoubled() throws IOException {
        interruptedBetweenTheCommits(100);
        paintShop.add("sign", values("code", "H-3", "hut_id", "9", "text", "By hand"));
        run(100);
        assertThat(signs()).containsExactlyInAnyOrder("H-1 Open", "H-3 By hand");
        assertThat(kept.rejects).extracting(reject -> reject.number()).containsExactly(3L);
    }

    @Test
    void anAnswerThatWasLostOnTheSecondWayIsAskedForOnce() throws IOException {
        interruptedBetweenTheCommits(100);
        paintShop.loseAnswersOfCommits(true);
        assertThatThrownBy(() -> run(100)).isInstanceOf(CannotGoOn.class);
        paintShop.loseAnswersOfCommits(false);
        assertThat(signs()).as("it was written, but nobody heard of it").containsExactly("H-1 Open", "H-3 Closed");
        RunResult result = run(100);
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(ledger()).isEqualTo(ALL_WRITTEN);
        assertThat(signs()).containsExactly("H-1 Open", "H-3 Closed");
    }

    @Test
    void whatIsRefusedWhenItIsBroughtToItsEndSaysSo() throws IOException {
        interruptedBetweenTheCommits(100);
        paintShop.refuse(values -> Optional.of(Problem.of(ProblemCode.CHECK_FAILED, "Out of paint.", "")));
        RunResult result = run(100);
        assertThat(signs()).containsExactly("H-1 Closed");
        assertThat(kept.rejects)
                .extracting(reject -> reject.number() + " "
                        + reject.problems().getFirst().code().id())
                .containsExactly("1 check-failed", "3 check-failed");
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().gap()).isEmpty();
    }
}
