package dev.nachlauf.service.look;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.service.NachlaufSettings;
import dev.nachlauf.service.ServiceUnderTest;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Supplier;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** A few looks at a time; each can be followed, stopped, and asked for its result once more. */
class LooksTest {
    private Looks looks = looks(Duration.ofMinutes(10));
    private final CountDownLatch open = new CountDownLatch(1);
    private final AtomicInteger atWork = new AtomicInteger();

    private static Looks looks(Duration deadline) {
        Duration any = Duration.ofSeconds(1);
        return new Looks(
                new NachlaufSettings(
                        Path.of("."),
                        List.of(),
                        List.of(),
                        List.of(),
                        any,
                        any,
                        any,
                        any,
                        any,
                        deadline,
                        100,
                        Set.of()),
                Clock.systemUTC());
    }

    @AfterEach
    void end() {
        open.countDown();
        looks.end();
    }

    private static Asking by(String caller, int seconds) {
        return new Asking(caller, Duration.ofSeconds(seconds));
    }

    /** Waits until the test lets it go on. */
    private String wait(String found) {
        atWork.incrementAndGet();
        try {
            open.await();
            return found;
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        } finally {
            atWork.decrementAndGet();
        }
    }

    /** Begins a look without waiting for it; the answer is its name. */
    private String begin(String place, Supplier<String> work) {
        return named(() -> looks.result(by("anna", 0), "preview", place, work));
    }

    private static String named(Supplier<?> call) {
        try {
            throw new AssertionError("not under way, but found: " + call.get());
        } catch (LookUnderWay e) {
            return e.look().id();
        }
    }

    @Test
    void whoWaitsHasTheResultAndNothingIsKept() {
        assertThat((Object) looks.result(by("anna", 60), "preview", null, () -> "found"))
                .isEqualTo("found");
        assertThat(looks.of("anna")).isEmpty();
    }

    @Test
    void aCallerSaysHowLongItWaits() {
        assertThat(Asking.patience(List.of())).isEqualTo(Duration.ofSeconds(10));
        assertThat(Asking.patience(List.of("respond-async"))).isEqualTo(Duration.ZERO);
        assertThat(Asking.patience(List.of("respond-async, wait=3"))).isEqualTo(Duration.ofSeconds(3));
        assertThat(Asking.patience(List.of("wait=999999"))).isEqualTo(Duration.ofMinutes(1));
        assertThat(Asking.patience(List.of("handling=lenient"))).isEqualTo(Duration.ofSeconds(10));
    }

    @Test
    void aLookThatTakesLongerIsNamedAndItsResultIsHadLaterOnce() {
        String id = begin("register", () -> wait("found"));
        assertThat(looks.find(id, "anna").view().what()).isEqualTo("preview");
        assertThatThrownBy(() -> looks.find(id, "ben"))
                .as("somebody else's look")
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.NOT_FOUND));
        open.countDown();
        assertThat(looks.result(id, by("anna", 60))).isEqualTo("found");
        assertThatThrownBy(() -> looks.result(id, by("anna", 60))).isInstanceOf(CannotGoOn.class);
    }

    @Test
    void aResultThatComesInTheMomentInWhichItsCallerIsSentAwayIsNotLost() {
        for (int round = 0; round < 20_000; round++) {
            try {
                assertThat((Object) looks.result(by("anna", 0), "preview", null, () -> "found"))
                        .isEqualTo("found");
            } catch (LookUnderWay e) {
                assertThat(looks.result(e.look().id(), by("anna", 60))).isEqualTo("found");
            }
        }
        assertThat(looks.of("anna")).isEmpty();
    }

    @Test
    void aFailureIsToldAsTheCallWouldHaveToldIt() {
        String id = begin("", () -> {
            wait("");
            throw new CannotGoOn(Problem.of(ProblemCode.UNREACHABLE, "The register does not answer.", ""));
        });
        open.countDown();
        assertThatThrownBy(() -> looks.result(id, by("anna", 60)))
                .isInstanceOf(CannotGoOn.class)
                .hasMessageContaining("The register does not answer.");
    }

    @Test
    void aFewAreCarriedOutAndFewerAtOnePlace() {
        List<String> all = new ArrayList<>();
        for (int look = 0; look < Looks.MOST_AT_ONE_PLACE + 3; look++) {
            all.add(begin("register", () -> wait("found")));
        }
        ServiceUnderTest.patiently().until(() -> atWork.get() == Looks.MOST_AT_ONE_PLACE);
        assertThat(looks.result(by("ben", 60), "preview", "till", () -> "another place"))
                .as("the place that is busy keeps no other waiting")
                .isEqualTo("another place");
        for (int look = 0; look < 4; look++) {
            all.add(begin("till", () -> wait("found")));
        }
        ServiceUnderTest.patiently().until(() -> atWork.get() == Looks.MOST_AT_ONCE);
        assertThat(all.stream().filter(id -> looks.find(id, "anna").isWaiting()))
                .hasSize(all.size() - Looks.MOST_AT_ONCE);
        open.countDown();
        assertThat(all)
                .allSatisfy(id -> assertThat(looks.result(id, by("anna", 60))).isEqualTo("found"));
        assertThat(atWork).hasValue(0);
    }

    @Test
    void tooManyAreRefused() {
        for (int look = 0; look < Looks.MOST_AT_ONE_PLACE + Looks.MOST_WAITING; look++) {
            begin("register", () -> wait("found"));
        }
        assertThatThrownBy(() -> looks.result(by("ben", 60), "preview", "register", () -> "one more"))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.TOO_BUSY));
    }

    /** Rows without an end. */
    private static SourceReader endless() {
        return new SourceReader() {
            private final SourceRow row = new SourceRow(1, new Origin("huts.csv", "", 2, ""), new Object[] {"H-1"});

            @Override
            public List<SourceField> fields() {
                return List.of(new SourceField("code", ""));
            }

            @Override
            public List<Detected> options() {
                return List.of();
            }

            @Override
            public SourceRow next() {
                return row;
            }

            @Override
            public void close() {}
        };
    }

    private String readAll(CountDownLatch ended) {
        try (SourceReader reader = RowWatch.over(endless())) {
            while (reader.next() != null) {}
            return "never";
        } finally {
            ended.countDown();
        }
    }

    private static void assertEnded(Supplier<?> call) {
        assertThatThrownBy(call::get)
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.LOOK_ENDED));
    }

    @Test
    void itsRowsAreCountedAndAStopIsHeardAtTheNextOne() throws InterruptedException {
        CountDownLatch ended = new CountDownLatch(1);
        String id = begin("", () -> readAll(ended));
        Look look = looks.find(id, "anna");
        ServiceUnderTest.patiently().until(() -> look.view().rows() > 1_000);
        assertThat(look.view().state()).isEqualTo("looking");
        looks.stop(look);
        assertEnded(() -> looks.result(id, by("anna", 60)));
        ended.await();
        assertThat(look.view().state()).isEqualTo("failed");
    }

    @Test
    void aStopMeetsOneThatWaitsForSomethingAndOneThatWaitsForItsTurn() {
        List<String> all = new ArrayList<>();
        for (int look = 0; look < Looks.MOST_AT_ONE_PLACE + 1; look++) {
            all.add(begin("register", () -> wait("found")));
        }
        ServiceUnderTest.patiently().until(() -> atWork.get() == Looks.MOST_AT_ONE_PLACE);
        looks.stop(looks.find(all.getLast(), "anna"));
        assertEnded(() -> looks.result(all.getLast(), by("anna", 60)));
        looks.stop(looks.find(all.getFirst(), "anna"));
        assertEnded(() -> looks.result(all.getFirst(), by("anna", 60)));
        ServiceUnderTest.patiently().until(() -> atWork.get() == Looks.MOST_AT_ONE_PLACE - 1);
        open.countDown();
        assertThat(looks.result(all.get(1), by("anna", 60)))
                .as("the interrupt met no other look")
                .isEqualTo("found");
    }

    @Test
    void oneThatTakesTooLongIsEnded() throws InterruptedException {
        looks.end();
        looks = looks(Duration.ofMillis(1));
        CountDownLatch ended = new CountDownLatch(1);
        assertEnded(() -> looks.result(by("anna", 60), "profile", null, () -> readAll(ended)));
        ended.await();
    }
}
