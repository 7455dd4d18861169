package dev.nachlauf.cli;

/** One line of progress that is written over, where standard error is a terminal. */
final class TerminalLine {
    /** The launch script sets it when standard error is a terminal: progress never goes into a pipe. */
    private static final boolean TERMINAL = "1".equals(System.getenv("NACHLAUF_TERMINAL"));

    private static final int WIDTH = 78;

    private TerminalLine() {}

    static void show(String line) {
        if (TERMINAL) {
            String plain = PlainText.forTerminal(line);
            String cut =
                    plain.length() > WIDTH ? plain.substring(0, WIDTH) : plain + " ".repeat(WIDTH - plain.length());
            System.err.print("\r" + cut);
            System.err.flush();
        }
    }

    static void clear() {
        if (TERMINAL) {
            System.err.print("\r" + " ".repeat(WIDTH) + "\r");
        }
    }
}
