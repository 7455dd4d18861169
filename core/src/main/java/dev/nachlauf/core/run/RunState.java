package dev.nachlauf.core.run;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** The states of a run. */
public enum RunState {
    WAITING,
    RUNNING,
    HELD,
    FINISHED,
    FAILED,
    STOPPED,
    DISCARDED;

    /** The word outside. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The state with this word. */
    public static Optional<RunState> of(String word) {
        return Arrays.stream(values())
                .filter(state -> state.word().equals(word))
                .findFirst();
    }

    /** Whether nothing can follow. */
    public boolean isFinal() {
        return this == FINISHED || this == FAILED || this == STOPPED || this == DISCARDED;
    }
}
