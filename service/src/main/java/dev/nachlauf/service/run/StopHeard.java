package dev.nachlauf.service.run;

/** Somebody wants the run to end, and heard it was where nothing has been begun that has to be brought to its end. */
final class StopHeard extends RuntimeException {
    private static final long serialVersionUID = 1L;

    StopHeard() {
        super("stop requested", null, false, false);
    }
}
