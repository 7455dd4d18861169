package dev.nachlauf.cli;

import java.io.PrintWriter;

/** One line of progress that is written over, where there is a terminal; elsewhere it says nothing. */
record TerminalLine(PrintWriter err, boolean terminal) {
    private static final int WIDTH = 78;

    void show(String line) {
        String plain = PlainText.forTerminal(line);
        print("\r" + (plain.length() > WIDTH ? plain.substring(0, WIDTH) : plain + " ".repeat(WIDTH - plain.length())));
    }

    void clear() {
        print("\r" + " ".repeat(WIDTH) + "\r");
    }

    private void print(String text) {
        if (terminal) {
            err.print(text);
            err.flush();
        }
    }
}
