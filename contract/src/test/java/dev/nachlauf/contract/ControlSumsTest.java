package dev.nachlauf.contract;

import static dev.nachlauf.contract.HutLoad.hut;
import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.core.load.ControlTotal;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunPolicy.Purpose;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.core.step.Amount;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Figures of the source, added up by what became of its rows. */
class ControlSumsTest {
    private static final String BEDS = """
            totals:
              sums:
                beds: { of: cast(beds as integer), target: beds }
            """;

    private static final String TWICE = """
            totals:
              sums:
                twice: { of: cast(beds as integer) * 2 }
            """;

    private static final String EXPECTED = """
            totals:
              sums:
                beds: { of: cast(beds as integer), expect: 100 + 40 }
            """;

    /** One is closed, one has no code, one stands there already as it is. */
    private static final String ROWS =
            "code;name;beds;status\nH-1;Larch;8;\nH-2;Fern;9;closed\n;Fern;20;\nH-4;Stone;;\nH-5;Moss;100;\n";

    private static final String PER_NAME = """
            nachlauf: 1
            job: huts
            read: { connection: inbox, file: huts.csv }
            steps:
              - combine: name
                make: { sum: sum(cast(beds as integer)), code: first(code) }
            write:
              connection: register
              records: hut
              action: upsert
              key: [hut_code]
              map: { hut_code: code, name: name, beds: sum }
            %s""";

    private static final String PER_BED = """
            nachlauf: 1
            job: huts
            read: { connection: inbox, file: huts.csv }
            steps:
              - wide-to-long: [beds, status]
                name: what
                value: bed
            write:
              connection: register
              records: hut
              action: upsert
              key: [hut_code]
              map: { hut_code: code || what, name: name }
            %s""";

    @TempDir
    Path scratch;

    private final MemorySystem huts = new MemorySystem(MemoryTargetTest.HUT);
    private final Kept kept = new Kept();

    private List<ControlTotal> totals(String job, String csv, String totals, Purpose purpose, int batchRows) {
        HutLoad one = new HutLoad(huts, kept, scratch);
        if (!job.isEmpty()) {
            one.of(job);
        }
        RunResult result = one.run(csv, totals, new RunPolicy(purpose, false, batchRows, 100_000), new Quiet());
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        return one.totals(csv, totals, purpose == Purpose.WRITE);
    }

    private static Amount of(long sum) {
        return new Amount(BigDecimal.valueOf(sum), 0);
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 100})
    void standBesideTheRowsWhateverBecameOfThem(int batchRows) {
        huts.add(hut("H-5", "Moss", 100));
        ControlTotal beds = totals("", ROWS, BEDS, Purpose.WRITE, batchRows).getFirst();
        assertThat(beds.name()).isEqualTo("beds");
        assertThat(beds.read()).isEqualTo(of(137));
        assertThat(beds.skipped()).isEqualTo(of(9));
        assertThat(beds.rejected()).isEqualTo(of(20));
        assertThat(beds.written()).as("changed or not").isEqualTo(of(108));
        assertThat(beds.unreached()).isEqualTo(Amount.NONE);
        assertThat(beds.target()).isEqualByComparingTo("108");
        assertThat(beds.beyondStored()).isEmpty();
    }

    @Test
    void seeWhatTheTargetHasMadeOfIt() {
        new HutLoad(huts, kept, scratch).run(ROWS, BEDS, new RunPolicy(Purpose.WRITE, false, 2, 100_000), new Quiet());
        huts.change("hut_code", "H-1", "beds", 5L);
        ControlTotal beds =
                new HutLoad(huts, kept, scratch).totals(ROWS, BEDS, true).getFirst();
        assertThat(beds.target()).isEqualByComparingTo("105");
        assertThat(beds.beyondStored()).hasValue(BigDecimal.valueOf(-3));
    }

    @Test
    void areThoseOfThePlanWhereNothingIsWritten() {
        ControlTotal beds = totals("", ROWS, BEDS, Purpose.DRY_RUN, 100).getFirst();
        assertThat(beds.written()).isEqualTo(of(108));
        assertThat(beds.target()).isNull();
        assertThat(huts.records()).isEmpty();
    }

    @Test
    void goWithTheRowsThatOthersAreMadeOf() {
        String rows = "code;name;beds;status\nH-1;Larch;8;\nH-2;Larch;9;\n;Fern;20;\n;Fern;30;\nH-5;Moss;100;\n";
        ControlTotal beds = totals(PER_NAME, rows, BEDS, Purpose.WRITE, 1).getFirst();
        assertThat(beds.read()).isEqualTo(of(167));
        assertThat(beds.rejected()).as("Fern has no code").isEqualTo(of(50));
        assertThat(beds.written()).isEqualTo(of(117));
        assertThat(beds.target()).isEqualByComparingTo("117");
    }

    @Test
    void countARowOnceThatBecomesSeveral() {
        String rows = "code;name;beds;status\nH-1;Larch;8;open\nH-2;Larch;9;\n";
        ControlTotal beds = totals(PER_BED, rows, TWICE, Purpose.WRITE, 1).getFirst();
        assertThat(beds.read()).isEqualTo(of(34));
        assertThat(huts.records()).hasSize(3);
    }

    /** A row whose key is empty finds its record by the second one. */
    @Test
    void areComparedWithTheRecordsOfBothKeys() {
        huts.add(hut("H-9", "Fern", 1));
        ControlTotal beds = totals("""
                        nachlauf: 1
                        job: huts
                        read: { connection: inbox, file: huts.csv }
                        write:
                          connection: register
                          records: hut
                          action: update
                          not-found: skip
                          key: [hut_code]
                          or-key: [name]
                          map: { hut_code: code, name: name, beds: beds }
                        %s""", "code;name;beds;status\nH-1;Larch;8;\n;Fern;20;\n", BEDS, Purpose.WRITE, 10)
                .getFirst();
        assertThat(beds.skipped()).isEqualTo(of(8));
        assertThat(beds.stored()).isEqualTo(of(20));
        assertThat(beds.target()).isEqualByComparingTo("20");
        assertThat(beds.beyondStored()).isEmpty();
    }

    @Test
    void tellWhatIsExpected() {
        ControlTotal beds = totals("", ROWS, EXPECTED, Purpose.DRY_RUN, 100).getFirst();
        assertThat(beds.expected()).isEqualByComparingTo("140");
        assertThat(beds.beyondExpected()).hasValue(BigDecimal.valueOf(-3));
    }

    /** A plain twin adds the same up. */
    @Test
    void holdOverManyRowsAndBatches() {
        String csv = HutLoad.huts(1_000);
        List<ControlTotal> totals = totals("", csv, BEDS, Purpose.WRITE, 33);
        long sum = IntStream.rangeClosed(1, 1_000).map(n -> n % 90).sum();
        assertThat(totals).extracting(ControlTotal::written).containsExactly(of(sum));
        assertThat(totals.getFirst().target()).isEqualByComparingTo(BigDecimal.valueOf(sum));
    }

    @Test
    void leaveOutWhatNobodyCanRead() {
        String rows = IntStream.range(0, 5)
                .mapToObj(n -> n == 3 ? "H-3;Larch\n" : "H-" + n + ";Larch;2;\n")
                .collect(Collectors.joining("", "code;name;beds;status\n", ""));
        ControlTotal beds = totals("", rows, BEDS, Purpose.WRITE, 100).getFirst();
        assertThat(beds.read()).isEqualTo(new Amount(BigDecimal.valueOf(8), 1));
        assertThat(beds.rejected()).isEqualTo(Amount.UNREAD);
    }
}
