package dev.nachlauf.connectors.format.encoding;

import dev.nachlauf.core.system.RowEdits;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;

/** Copies a text line by line without decoding it; some of the lines get an addition, are replaced, or left out. */
public final class CopiedLines {
    private static final int END = -1;

    private final InputStream in;
    private final OutputStream out;
    /** How many bytes a line break's character has. */
    private final int width;

    private final Charset charset;
    private final int feed;
    private final int carriage;
    private int ahead = END;
    private long line = 1;
    /** The first line break of the text, as it stands there. */
    private byte @Nullable [] lineBreak;
    /** Whether what was written last ends no line. */
    private boolean open;

    /** @param in and {@code out}: buffered, for they are used byte by byte */
    public CopiedLines(InputStream in, OutputStream out, Charset charset) {
        this.in = in;
        this.out = out;
        this.charset = charset;
        this.width = encoded("\n", charset).length;
        this.feed = unit(encoded("\n", charset));
        this.carriage = unit(encoded("\r", charset));
    }

    /** A text in an encoding, without a byte order mark. */
    public static byte[] encoded(String text, Charset charset) {
        return text.getBytes(exact(charset));
    }

    /** A charset that adds no byte order mark of its own. */
    static Charset exact(Charset charset) {
        return charset.equals(StandardCharsets.UTF_16) ? StandardCharsets.UTF_16BE : charset;
    }

    private static int unit(byte[] bytes) {
        int unit = 0;
        for (byte one : bytes) {
            unit = unit << Byte.SIZE | one & 0xFF;
        }
        return unit;
    }

    /** Copies everything up to the end of a line, from 1, and adds something just before its line break. */
    public void through(long last, byte[] added) throws IOException {
        int one = next();
        while (one != END && !(line == last && ends(one))) {
            pass(one);
            one = next();
        }
        out.write(added);
        open = true;
        if (one != END) {
            pass(one);
        }
    }

    /** Copies everything before a line. */
    public void before(long first) throws IOException {
        for (int one = line < first ? next() : END; one != END; one = line < first ? next() : END) {
            pass(one);
        }
    }

    /** Writes something in the place of what is left up to the end of a line. */
    public void replace(long last, byte[] by) throws IOException {
        int one = swallow(last);
        out.write(by);
        open = true;
        if (one != END) {
            pass(one);
        }
    }

    /** Leaves out what is left up to the end of a line, its break included. */
    public void leaveOut(long last) throws IOException {
        int one = swallow(last);
        if (one != END) {
            broken(one, false);
        }
    }

    private int swallow(long last) throws IOException {
        int one = next();
        while (one != END && !(line == last && ends(one))) {
            if (ends(one)) {
                broken(one, false);
            }
            one = next();
        }
        return one;
    }

    /** Copies what is left. */
    public void rest() throws IOException {
        for (int one = next(); one != END; one = next()) {
            pass(one);
        }
    }

    /** Spells a row that is added. */
    @FunctionalInterface
    public interface Spelling {
        String line(@Nullable Object[] cells);
    }

    /** Adds rows behind all others, with line breaks like those of the text; it ends in a break where it did before. */
    public void add(RowEdits edits, Spelling spelling) throws IOException {
        boolean closed = !open;
        byte[] end = lineBreak == null ? encoded("\n", charset) : lineBreak;
        for (@Nullable Object[] cells = edits.next(); cells != null; cells = edits.next()) {
            if (open) {
                out.write(end);
            }
            out.write(encoded(spelling.line(cells), charset));
            open = true;
        }
        if (open && closed) {
            out.write(end);
        }
    }

    private boolean ends(int one) {
        return one == feed || one == carriage;
    }

    /** Writes a unit and counts the line that it ends. */
    private void pass(int one) throws IOException {
        if (ends(one)) {
            broken(one, true);
        } else {
            write(one);
            open = true;
        }
    }

    /** Takes a line break; a carriage return and a line feed end one line together. */
    private void broken(int one, boolean written) throws IOException {
        line++;
        int following = one == carriage ? next() : END;
        boolean both = one == carriage && following == feed;
        if (one == carriage && !both) {
            ahead = following;
        }
        if (lineBreak == null) {
            lineBreak = encoded(both ? "\r\n" : one == carriage ? "\r" : "\n", charset);
        }
        if (written) {
            write(one);
            if (both) {
                write(following);
            }
            open = false;
        }
    }

    private void write(int one) throws IOException {
        for (int part = width - 1; part >= 0; part--) {
            out.write(one >> part * Byte.SIZE);
        }
    }

    private int next() throws IOException {
        int one = ahead;
        ahead = END;
        if (one != END) {
            return one;
        }
        one = in.read();
        for (int part = 1; part < width && one != END; part++) {
            one = one << Byte.SIZE | Math.max(0, in.read());
        }
        return one;
    }
}
