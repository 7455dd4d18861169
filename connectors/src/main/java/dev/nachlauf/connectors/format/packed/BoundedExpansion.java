package dev.nachlauf.connectors.format.packed;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.io.EOFException;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.zip.ZipException;

/** Unpacked bytes that end with a finding where there are suspiciously many of them. */
final class BoundedExpansion extends FilterInputStream {
    /** Real data rarely packs better than 1 : 50. */
    static final long MOST_TIMES = 250;

    /** So much is always allowed: short files of the same line pack very well. */
    static final long ALWAYS = 64L << 20;

    private final String file;
    private final long most;
    private long count;

    BoundedExpansion(String file, InputStream in, long packedSize) {
        this(file, in, packedSize, ALWAYS);
    }

    BoundedExpansion(String file, InputStream in, long packedSize, long always) {
        super(in);
        this.file = file;
        this.most = Math.max(always, packedSize * MOST_TIMES);
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] into, int from, int length) throws IOException {
        try {
            int read = super.read(into, from, length);
            return read < 0 ? read : counted(read);
        } catch (ZipException | EOFException e) {
            throw new CannotGoOn(
                    Problem.of(
                            ProblemCode.FILE_MALFORMED,
                            "The packed file " + file + " is damaged behind " + count + " bytes.",
                            "Ask the sender for it again."),
                    e);
        }
    }

    private int counted(int more) {
        count += more;
        if (count > most) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_TOO_LARGE,
                    "The packed file " + file + " unpacks to more than " + MOST_TIMES + " times its size.",
                    "If that is right, unpack it before it is delivered."));
        }
        return more;
    }

    @Override
    public long skip(long bytes) throws IOException {
        return readNBytes((int) Math.min(bytes, 1 << 16)).length;
    }

    @Override
    public boolean markSupported() {
        return false;
    }
}
