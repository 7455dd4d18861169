package dev.nachlauf.cli;

import java.io.IOException;
import java.io.InputStream;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;

/**
 * What surrounds one call of the client: a process has its own, a program that calls the client states them.
 *
 * @param folder    what file names are relative to
 * @param variables the environment
 * @param input     standard input
 * @param out       what the call found
 * @param err       progress, remarks and errors
 */
public record Surroundings(
        Path folder, Map<String, String> variables, InputStream input, PrintWriter out, PrintWriter err) {
    /** The name that stands for standard input where a file is expected. */
    static final Path STANDARD_INPUT = Path.of("-");

    static Surroundings ofThisProcess() {
        return new Surroundings(
                Path.of(""),
                System.getenv(),
                System.in,
                new PrintWriter(System.out, true, StandardCharsets.UTF_8),
                new PrintWriter(System.err, true, StandardCharsets.UTF_8));
    }

    Optional<String> variable(String name) {
        return Optional.ofNullable(variables.get(name));
    }

    /** The launch script sets it when standard error is a terminal: progress never goes into a pipe. */
    TerminalLine terminalLine() {
        return new TerminalLine(err, isSet("NACHLAUF_TERMINAL"));
    }

    /** Whether somebody is there to answer questions. */
    boolean asks() {
        return isSet("NACHLAUF_ASKS");
    }

    private boolean isSet(String name) {
        return variable(name).equals(Optional.of("1"));
    }

    /** The file of a name; {@code -} is standard input. */
    Path file(String name) {
        Path stated = Path.of(name);
        return stated.equals(STANDARD_INPUT) ? stated : folder.resolve(stated);
    }

    /** What stands in a file; {@code -} is standard input. */
    String read(Path file) {
        try {
            return file.equals(STANDARD_INPUT)
                    ? new String(input.readAllBytes(), StandardCharsets.UTF_8)
                    : Files.readString(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
