package dev.nachlauf.cli;

/** What the client ends with; scripts rely on these numbers. */
final class ExitStatus {
    /** All well, or accepted. */
    static final int WELL = 0;

    /** Findings, refused by the service, or the run failed, was stopped, or is held by a limit. */
    static final int REFUSED = 1;

    /** The words of the call are wrong. */
    static final int USAGE = 2;

    /** Finished, and rows were rejected. */
    static final int REJECTS = 3;

    /** The service can't be reached. */
    static final int UNREACHABLE = 4;

    private ExitStatus() {}
}
