package dev.nachlauf.connectors.format.encoding;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.SourceBytes;
import java.io.BufferedReader;
import java.io.BufferedWriter;
import java.io.Closeable;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Reader;
import java.io.Writer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.CharsetEncoder;

/**
 * Copies a text character by character; pieces of it are taken out, and others put in. Places are counted in characters
 * (UTF-16) from 0, behind a byte order mark, and only rise.
 */
public final class CopiedText implements Closeable {
    private static final int BYTE_ORDER_MARK = 0xFEFF;

    private final String file;
    private final Reader in;
    private final Writer out;
    private final CharsetEncoder encoder;
    private int ahead;
    private long at;

    private CopiedText(String file, Reader in, Writer out, CharsetEncoder encoder) {
        this.file = file;
        this.in = in;
        this.out = out;
        this.encoder = encoder;
    }

    /** @param out isn't closed */
    public static CopiedText open(SourceBytes bytes, Charset charset, OutputStream out) throws IOException {
        Charset exact = CopiedLines.exact(charset);
        CopiedText text = new CopiedText(
                bytes.file(),
                // a decoder, other than a charset, tells what it can't decode
                new BufferedReader(new InputStreamReader(bytes.open(), exact.newDecoder())),
                new BufferedWriter(new OutputStreamWriter(out, exact.newEncoder())),
                exact.newEncoder());
        text.ahead = text.read();
        if (text.ahead == BYTE_ORDER_MARK) {
            text.out.write(text.ahead);
            text.ahead = text.read();
        }
        return text;
    }

    private int read() throws IOException {
        try {
            return in.read();
        } catch (CharacterCodingException e) {
            throw new CannotGoOn(Problem.at(
                    new Place.InFile(file, 1),
                    ProblemCode.FILE_ENCODING,
                    file + " holds bytes that are not " + encoder.charset().name()
                            + ", so it can't be given on as it is.",
                    "State the file's encoding in the job, under format."));
        }
    }

    private int next() throws IOException {
        int one = ahead;
        if (one < 0) {
            throw new EOFException(file + " has become shorter while it was copied");
        }
        at++;
        ahead = read();
        return one;
    }

    /** Copies what stands before a place. */
    public void before(long place) throws IOException {
        while (at < place) {
            out.write(next());
        }
    }

    /** Takes out what stands before a place. */
    public String take(long place) throws IOException {
        StringBuilder taken = new StringBuilder();
        while (at < place) {
            taken.append((char) next());
        }
        return taken.toString();
    }

    /** Takes out a separator that follows, and the blanks around it. */
    public void takeSeparator(char separator) throws IOException {
        takeBlanks();
        if (ahead == separator) {
            next();
            takeBlanks();
        }
    }

    private void takeBlanks() throws IOException {
        while (ahead >= 0 && Character.isWhitespace(ahead)) {
            next();
        }
    }

    /** Puts something in. */
    public void put(String text) throws IOException {
        out.write(text);
    }

    /** Copies what is left. */
    public void rest() throws IOException {
        while (ahead >= 0) {
            out.write(next());
        }
    }

    /** Whether the text's encoding has these characters. */
    public boolean canHold(CharSequence characters) {
        return encoder.canEncode(characters);
    }

    @Override
    public void close() throws IOException {
        out.flush();
        in.close();
    }
}
