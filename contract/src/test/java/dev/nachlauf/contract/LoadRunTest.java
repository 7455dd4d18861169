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
import dev.nachlauf.core.run.Reject;
import dev.nachlauf.core.run.RunBalance;
import dev.nachlauf.core.run.RunObserver;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import java.nio.file.Path;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The engine from the first row to the balance, over the target in memory. */
class LoadRunTest {
    private static final RunPolicy SMALL = new RunPolicy(false, 100, 100_000);

    @TempDir
    Path scratch;

    private final MemorySystem memory = new MemorySystem(MemoryTargetTest.HUT);
    private final Kept kept = new Kept();

    private RunResult run(String csv, String limits, RunPolicy policy, RunObserver observer) {
        return run(() -> csv, limits, policy, observer);
    }

    /** @param text what the file holds each time it is opened */
    private RunResult run(Supplier<String> text, String limits, RunPolicy policy, RunObserver observer) {
        return new HutLoad(memory, kept, scratch).run(text, limits, policy, observer);
    }

    private static String huts(int count) {
        return HutLoad.huts(count);
    }

    @Test
    void aLimitCountsEachRowOfTheSourceOnce() {
        // the key stands in ten rows, and five of them are broken too: ten rows, not fifteen
        String csv = huts(90) + "H-91;x;many;\nH-91;x;1;\n".repeat(5);
        assertThat(run(csv, "limits: { rejected: 9 }\n", SMALL, new Quiet())
                        .reasons()
                        .getFirst()
                        .sentence())
                .startsWith("At least 10 of 100 rows");
        assertThat(run(csv, "limits: { rejected: 10 }\n", SMALL, new Quiet()).state())
                .isEqualTo(RunState.FINISHED);
    }

    @Test
    void whoDecidesAboutAHeldRunSeesItsRejects() {
        String csv = huts(90) + "H-91;x;many;\n".repeat(10);
        run(csv, "limits: { rejected: 5% }\n", SMALL, new Quiet());
        assertThat(kept.rejects).isEmpty();
        assertThat(kept.foreseen).hasSize(10).extracting(Reject::number).startsWith(91L, 92L);
        run(csv, "limits: { rejected: 5% }\n", new RunPolicy(true, 100, 100_000), new Quiet());
        assertThat(kept.foreseen).isEmpty();
        assertThat(kept.rejects).hasSize(10);
    }

    @Test
    void ofABatchThatCrossesALimitTheRejectsAreShown() {
        memory.refuse(values -> Optional.of(Problem.of(ProblemCode.REFUSED_BY_TARGET, "No.", "")));
        run(huts(300), "limits: { rejected: 150 }\n", SMALL, new Quiet());
        assertThat(kept.rejects).hasSize(100);
        assertThat(kept.foreseen).hasSize(100);
    }

    private void interruptedAtBatchThree() {
        kept.failAt = 3;
        assertThatThrownBy(() -> run(huts(1_000), "", SMALL, new Quiet())).isInstanceOf(CannotGoOn.class);
        kept.failAt = -1;
    }

    @Test
    void batchesThatAreDoneKeepTheirRowsHoweverTheRestIsCut() {
        interruptedAtBatchThree();
        RunResult result = run(huts(1_000), "", new RunPolicy(false, 70, 100_000), new Quiet());
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().counts().inserted()).isEqualTo(1_000);
        assertThat(memory.records()).hasSize(1_000);
        assertThat(kept.chunks())
                .extracting(head -> head.range().rows())
                .startsWith(100, 100, 100)
                .contains(70);
        assertThat(kept.rows(1, 3).stream().map(LedgerRow::number).sorted())
                .isEqualTo(
                        IntStream.rangeClosed(1, 1_000).mapToObj(n -> (long) n).toList());
    }

    @Test
    void anotherCutOfTheRowsOfAnEarlierVersionEndsTheRunAndLosesNothing() {
        interruptedAtBatchThree();
        kept.forgetRows();
        int before = memory.records().size();
        assertThatThrownBy(() -> run(huts(1_000), "", new RunPolicy(false, 70, 100_000), new Quiet()))
                .isInstanceOfSatisfying(CannotGoOn.class, e -> {
                    assertThat(e.isTemporary()).isFalse();
                    assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.INTERNAL);
                });
        assertThat(memory.records()).hasSize(before);
        assertThat(run(huts(1_000), "", SMALL, new Quiet()).balance().counts().inserted())
                .isEqualTo(1_000);
    }

    @Test
    void aRowThatIsMadeTooLargeIsRejectedAndTheOthersAreWritten() {
        String large = "x".repeat(3_000_000);
        RunResult result = run(huts(5) + "H-6;" + large + ";1;" + large + "\nH-7;Small;1;\n", "", SMALL, new Quiet());
        assertThat(result.balance().counts().inserted()).isEqualTo(6);
        assertThat(kept.rejects).singleElement().satisfies(reject -> {
            assertThat(reject.number()).isEqualTo(6);
            assertThat(reject.problems()).extracting(Problem::code).containsExactly(ProblemCode.ROW_TOO_LARGE);
        });
    }

    @Test
    void aStopIsHeardWhileRowsAreOnlyLookedAt() {
        int[] asked = new int[1];
        RunResult result = run(huts(50_000), "", SMALL, new Quiet() {
            @Override
            public boolean stopRequested() {
                return ++asked[0] > 20_000;
            }
        });
        assertThat(result.state()).isEqualTo(RunState.STOPPED);
        assertThat(result.balance().counts()).isEqualTo(Counts.NONE);
        assertThat(memory.records()).isEmpty();
    }

    @Test
    void moreRowsInTheLedgerThanInTheSourceEndTheRun() {
        run(huts(300), "", SMALL, new Quiet());
        assertThatThrownBy(() -> run(huts(200), "", SMALL, new Quiet())).isInstanceOfSatisfying(CannotGoOn.class, e -> {
            assertThat(e.isTemporary()).isFalse();
            assertThat(e.problems().getFirst().sentence())
                    .isEqualTo("The rows are no longer those that were written."
                            + " Batch 2 was written, but the rows end before it.");
        });
        assertThat(RunBalance.of(200, kept.chunks(), true).gap())
                .hasValue("The ledger holds 300 rows, but only 200 were read.");
    }

    @Test
    void rowsThatAreInNoBatchFailARunThatNobodyStopped() {
        int[] opened = new int[1];
        RunResult result = run(() -> huts(opened[0]++ == 0 ? 300 : 200), "", SMALL, new Quiet());
        assertThat(opened[0]).as("counted first, then written").isEqualTo(2);
        assertThat(result.state()).isEqualTo(RunState.FAILED);
        assertThat(result.balance().unreached()).isEqualTo(100);
        assertThat(result.reasons().getFirst().sentence())
                .isEqualTo("100 of 300 rows are in no batch, though nobody stopped the run.");
    }

    @Test
    void accountsForEveryRow() {
        RunResult result = run(huts(250) + "H-9;Closed;1;closed\nH-8;Many;many;\n", "", SMALL, new Quiet());
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().read()).isEqualTo(252);
        assertThat(result.balance().counts()).isEqualTo(new Counts(252, 1, 1, 250, 0, 0, 0, 0, 0, 0));
        assertThat(memory.records()).hasSize(250);
        assertThat(kept.rejects).singleElement().satisfies(reject -> {
            assertThat(reject.origin().line()).isEqualTo(253);
            assertThat(reject.cells()).containsExactly("H-8", "Many", "many", null);
            assertThat(reject.problems()).extracting(Problem::code).containsExactly(ProblemCode.VALUE_MALFORMED);
        });
        assertThat(kept.rows(1, 3))
                .extracting(LedgerRow::number)
                .isEqualTo(IntStream.rangeClosed(1, 252).mapToObj(n -> (long) n).toList());
    }

    @Test
    void theSameAgainIsUnchangedAndOnlyDifferencesAreWritten() {
        run(huts(250), "", SMALL, new Quiet());
        kept.chunks.clear();
        assertThat(run(huts(250), "", SMALL, new Quiet()).balance().counts().unchanged())
                .isEqualTo(250);
        kept.chunks.clear();
        Counts changed = run(huts(250).replace("Hut 7;7;", "Hut 7;70;"), "", SMALL, new Quiet())
                .balance()
                .counts();
        assertThat(changed.updated()).isEqualTo(1);
        assertThat(changed.unchanged()).isEqualTo(249);
        LedgerRow row = kept.rows(1, 3).stream()
                .filter(line -> line.outcome() == Outcome.UPDATED)
                .findFirst()
                .orElseThrow();
        assertThat(row.before()).containsExactly(null, null, 7L);
        assertThat(row.after()).containsExactly(null, null, 70L);
    }

    @Test
    void aKeyRepeatedInALaterBatchRejectsBothRows() {
        RunResult result = run(huts(1_050) + "H-00007;Again;1;\n", "", SMALL, new Quiet());
        assertThat(result.balance().counts().rejected()).isEqualTo(2);
        assertThat(kept.rejects).extracting(Reject::number).containsExactlyInAnyOrder(7L, 1_051L);
        assertThat(memory.records()).hasSize(1_049);
    }

    @Test
    void aLimitHoldsTheRunBeforeAnythingIsWrittenAndCanBeWaived() {
        String csv = huts(90) + "H-91;x;many;\n".repeat(10);
        RunResult held = run(csv, "limits: { rejected: 5% }\n", SMALL, new Quiet());
        assertThat(held.state()).isEqualTo(RunState.HELD);
        assertThat(held.reasons()).extracting(Problem::code).containsExactly(ProblemCode.LIMIT_CROSSED);
        assertThat(memory.records()).isEmpty();
        RunResult released = run(csv, "limits: { rejected: 5% }\n", new RunPolicy(true, 100, 100_000), new Quiet());
        assertThat(released.state()).isEqualTo(RunState.FINISHED);
        assertThat(memory.records()).hasSize(90);
    }

    @Test
    void refusalsOfTheTargetCountForTheLimitToo() {
        memory.refuse(values -> Optional.of(Problem.of(ProblemCode.REFUSED_BY_TARGET, "No.", "")));
        RunResult held = run(huts(300), "limits: { rejected: 150 }\n", SMALL, new Quiet());
        assertThat(held.state()).isEqualTo(RunState.HELD);
        assertThat(held.balance().counts().refused()).isEqualTo(100);
        assertThat(held.balance().unreached()).isEqualTo(200);
    }

    @Test
    void aStopEndsAfterTheBatchInHandAndTheRestIsUnreached() {
        RunResult result = run(huts(1_000), "", SMALL, new Quiet() {
            @Override
            public boolean stopRequested() {
                return !kept.chunks().isEmpty();
            }
        });
        assertThat(result.state()).isEqualTo(RunState.STOPPED);
        assertThat(result.balance().gap()).isEmpty();
        assertThat(result.balance().unreached()).isBetween(500L, 900L);
        assertThat(memory.records()).hasSize((int) (1_000 - result.balance().unreached()));
    }

    @Test
    void goesOnAfterTheLedgerFailed() {
        kept.failAt = 3;
        assertThatThrownBy(() -> run(huts(1_000), "", SMALL, new Quiet())).isInstanceOf(CannotGoOn.class);
        kept.failAt = -1;
        RunResult result = run(huts(1_000), "", SMALL, new Quiet());
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().counts().inserted()).isEqualTo(1_000);
        assertThat(memory.records()).hasSize(1_000);
    }

    @Test
    void goesOnAfterTheAnswerOfACommitWasLost() {
        memory.loseAnswersOfCommits(true);
        assertThatThrownBy(() -> run(huts(1_000), "", SMALL, new Quiet())).isInstanceOf(CannotGoOn.class);
        memory.loseAnswersOfCommits(false);
        RunResult result = run(huts(1_000), "", SMALL, new Quiet());
        assertThat(result.balance().counts().inserted()).isEqualTo(1_000);
        assertThat(memory.records()).hasSize(1_000);
        assertThat(kept.chunks()).allMatch(head -> head.state() == Chunk.State.DONE);
    }

    @Test
    void aSourceThatBreaksOffFailsBeforeAnythingIsWritten() {
        RunResult result = run(huts(300) + "\"H-301;no end\nH-302;Hut;1;\nH-303;Hut;1;\n", "", SMALL, new Quiet());
        assertThat(result.state()).isEqualTo(RunState.FAILED);
        assertThat(result.reasons().getFirst().code()).isEqualTo(ProblemCode.FILE_MALFORMED);
        assertThat(result.balance().read()).isEqualTo(300);
        assertThat(result.balance().unreached()).isEqualTo(300);
        assertThat(memory.records()).isEmpty();
    }

    @Test
    void aChangeBetweenFindAndApplyIsPlannedAgain() {
        run(huts(10), "", SMALL, new Quiet());
        kept.chunks.clear();
        memory.meanwhile(() -> memory.change("hut_code", "H-00003", "beds", 77L));
        RunResult result = run(huts(10).replace("Hut 3;3;", "Hut 3;30;"), "", SMALL, new Quiet());
        assertThat(result.balance().counts().updated()).isEqualTo(1);
        LedgerRow row = kept.rows(1, 3).get(2);
        assertThat(row.before()).containsExactly(null, null, 77L);
        assertThat(row.after()).containsExactly(null, null, 30L);
        assertThat(memory.records().get(2)).containsEntry("beds", 30L);
    }
}
