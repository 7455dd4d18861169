package dev.nachlauf.connectors.format.encoding;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import org.jspecify.annotations.Nullable;

/** The lines of a text; CR, LF and CRLF end one. A line that never ends is refused before it fills the memory. */
public final class BoundedLines implements AutoCloseable {
    /** The longest line, in UTF-16 units. */
    public static final int LONGEST = 4_000_000;

    private final String file;
    private final BufferedReader reader;
    private final StringBuilder line = new StringBuilder();
    private boolean afterReturn;
    private long number;

    public BoundedLines(String file, Reader reader) {
        this.file = file;
        this.reader = new BufferedReader(reader);
    }

    /** The next line without its end; null at the end of the text. */
    public @Nullable String next() {
        line.setLength(0);
        try {
            int c = read();
            if (c < 0) {
                return null;
            }
            number++;
            while (c >= 0 && c != '\n' && c != '\r') {
                if (line.length() == LONGEST) {
                    throw tooLong();
                }
                line.append((char) c);
                c = reader.read();
            }
            afterReturn = c == '\r';
            return line.toString();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A line feed behind a carriage return belongs to it. */
    private int read() throws IOException {
        int c = reader.read();
        return afterReturn && c == '\n' ? reader.read() : c;
    }

    private CannotGoOn tooLong() {
        return new CannotGoOn(Problem.at(
                new Place.InFile(file, number),
                ProblemCode.FILE_MALFORMED,
                "The line is longer than " + LONGEST + " characters.",
                "Check whether this is the right format for the file."));
    }

    /** The number of the line that was read last, from 1. */
    public long number() {
        return number;
    }

    @Override
    public void close() {
        try {
            reader.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
