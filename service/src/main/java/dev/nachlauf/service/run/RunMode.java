package dev.nachlauf.service.run;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.RunPolicy.Purpose;
import java.util.Arrays;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** What a run is for. */
enum RunMode {
    WRITE,
    /** Plans everything, keeps that, and ends. */
    DRY_RUN,
    /** Sends everything to targets that keep nothing of it, keeps what they say, and ends. */
    REHEARSE,
    /** Plans everything, waits for a person, and then writes what was reviewed. */
    HOLD,
    /** Takes back what another run has written. */
    UNDO;

    /** The word outside. */
    String word() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    static RunMode of(String word) {
        return Arrays.stream(values())
                .filter(mode -> mode.word().equals(word))
                .findFirst()
                .orElseThrow(() -> unknown(word));
    }

    /** What somebody asks for who starts a job. */
    static RunMode asked(@Nullable String word) {
        RunMode mode = word == null ? WRITE : of(word);
        if (mode == UNDO) {
            throw unknown(word);
        }
        return mode;
    }

    private static CannotGoOn unknown(@Nullable String word) {
        return new CannotGoOn(Problem.of(
                ProblemCode.REQUEST_MALFORMED,
                "A run can't be started in the mode " + word + ".",
                "Modes: write, dry-run, rehearse, hold."));
    }

    /** Whether it reads a source of its own. */
    boolean readsSource() {
        return this != UNDO;
    }

    /** Whether files are taken and the watermark moves when it has finished. */
    boolean moves() {
        return this == WRITE || this == HOLD;
    }

    /** What the first attempts of such a run are for. */
    Purpose purpose() {
        return switch (this) {
            case WRITE, UNDO -> Purpose.WRITE;
            case DRY_RUN -> Purpose.DRY_RUN;
            case REHEARSE -> Purpose.REHEARSAL;
            case HOLD -> Purpose.REVIEW;
        };
    }
}
