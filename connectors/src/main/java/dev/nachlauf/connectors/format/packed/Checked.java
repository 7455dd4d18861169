package dev.nachlauf.connectors.format.packed;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.zip.CRC32;
import java.util.zip.ZipEntry;

/** The bytes of a file in an archive, held against its check sum at their end: the JDK doesn't do that by itself. */
final class Checked extends FilterInputStream {
    private final ZipEntry entry;
    private final CRC32 sum = new CRC32();

    Checked(ZipEntry entry, InputStream bytes) {
        super(bytes);
        this.entry = entry;
    }

    @Override
    public int read() throws IOException {
        int one = super.read();
        if (one < 0) {
            atEnd();
        } else {
            sum.update(one);
        }
        return one;
    }

    @Override
    public int read(byte[] into, int from, int length) throws IOException {
        int read = super.read(into, from, length);
        if (read < 0) {
            atEnd();
        } else {
            sum.update(into, from, read);
        }
        return read;
    }

    @Override
    public long skip(long bytes) throws IOException {
        return readNBytes((int) Math.min(bytes, 1 << 16)).length;
    }

    @Override
    public boolean markSupported() {
        return false;
    }

    private void atEnd() {
        if (entry.getCrc() >= 0 && entry.getCrc() != sum.getValue()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_MALFORMED,
                    "The file " + entry.getName() + " in the archive is damaged: its check sum is wrong.",
                    "Ask the sender for it again."));
        }
    }
}
