package dev.nachlauf.connectors.format.packed;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
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
        int one = super.read();
        return one < 0 ? one : counted(1, one);
    }

    @Override
    public int read(byte[] into, int from, int length) throws IOException {
        try {
            int read = super.read(into, from, length);
            return read < 0 ? read : counted(read, read);
        } catch (ZipException e) {
            throw new CannotGoOn(
                    Problem.of(
                            ProblemCode.FILE_MALFORMED,
                            "The packed file " + file + " is damaged behind " + count + " bytes.",
                            "Ask the sender for it again."),
                    e);
        }
    }

    private int counted(int more, int result) {
        count += more;
        if (count > most) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_TOO_LARGE,
                    "The packed file " + file + " unpacks to more than " + MOST_TIMES + " times its size.",
                    "If that is right, unpack it before it is delivered."));
        }
        return result;
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
