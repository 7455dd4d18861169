package dev.nachlauf.connectors.format.delimited;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;

/** Copies a text line by line without decoding it, and adds something before the ends of some of the lines. */
final class CopiedLines {
    private static final int END = -1;

    private final InputStream in;
    private final OutputStream out;
    /** How many bytes a line break's character has. */
    private final int width;

    private final int feed;
    private final int carriage;
    private int ahead = END;
    private long line = 1;

    /** @param in and {@code out}: buffered, for they are used byte by byte */
    CopiedLines(InputStream in, OutputStream out, Charset charset) {
        this.in = in;
        this.out = out;
        this.width = encoded("\n", charset).length;
        this.feed = unit(encoded("\n", charset));
        this.carriage = unit(encoded("\r", charset));
    }

    /** A text in an encoding, without a byte order mark. */
    static byte[] encoded(String text, Charset charset) {
        return text.getBytes(charset.equals(StandardCharsets.UTF_16) ? StandardCharsets.UTF_16BE : charset);
    }

    private static int unit(byte[] bytes) {
        int unit = 0;
        for (byte one : bytes) {
            unit = unit << Byte.SIZE | one & 0xFF;
        }
        return unit;
    }

    /** Copies everything up to the end of a line, from 1, and adds something just before its line break. */
    void through(long last, byte[] added) throws IOException {
        int one = next();
        while (one != END && !(line == last && ends(one))) {
            pass(one);
            one = next();
        }
        out.write(added);
        if (one != END) {
            pass(one);
        }
    }

    /** Copies what is left. */
    void rest() throws IOException {
        for (int one = next(); one != END; one = next()) {
            write(one);
        }
    }

    private boolean ends(int one) {
        return one == feed || one == carriage;
    }

    /** Writes a unit and counts the line that it ends; a carriage return and a line feed end one line together. */
    private void pass(int one) throws IOException {
        write(one);
        if (!ends(one)) {
            return;
        }
        line++;
        if (one == carriage) {
            int following = next();
            if (following == feed) {
                write(following);
            } else {
                ahead = following;
            }
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
