package dev.nachlauf.core.spool;

import com.github.luben.zstd.ZstdInputStream;
import com.github.luben.zstd.ZstdOutputStream;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * Rows kept on disk in order, with a last word behind them. The file gets its name when it is complete, so a file of this
 * name is whole whatever happened while it was written.
 */
public final class RowFile {
    private static final int END = -1;
    /**
     * Stands first in every file: a held run may be released by a later version of the program. From 2 on rows of a text may
     * be kept as they stood.
     */
    private static final byte VERSION = 2;

    private static final byte OLDEST = 1;

    private RowFile() {}

    /** Writes rows. */
    public static final class Writer implements AutoCloseable {
        private final Path file;
        private final Path folder;
        private final Path part;
        private final DataOutputStream out;

        public Writer(Path file) {
            this.file = file;
            this.folder = Objects.requireNonNull(file.toAbsolutePath().getParent(), "a file lies in a folder");
            this.part = file.resolveSibling(file.getFileName() + ".part");
            try {
                out = new DataOutputStream(new BufferedOutputStream(
                        new ZstdOutputStream(ForcedOutput.of(part), ExternalSort.FAST), 1 << 16));
                out.writeByte(VERSION);
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }

        /** Adds a row. */
        public void add(byte[] row) {
            try {
                out.writeInt(row.length);
                out.write(row);
            } catch (IOException e) {
                throw Disk.failure(e, folder);
            }
        }

        /** Ends the file and gives it its name. */
        public void finish(byte[] lastWord) {
            try {
                out.writeInt(END);
                out.writeInt(lastWord.length);
                out.write(lastWord);
                out.close();
                Files.move(part, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
                Disk.forceEntries(folder);
            } catch (IOException e) {
                throw Disk.failure(e, folder);
            }
        }

        @Override
        public void close() {
            try {
                out.close();
                Files.deleteIfExists(part);
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }

    /** Reads rows. */
    public static final class Reader implements AutoCloseable {
        private final DataInputStream in;
        private byte @Nullable [] lastWord;

        public Reader(Path file) {
            try {
                in = new DataInputStream(
                        new BufferedInputStream(new ZstdInputStream(Files.newInputStream(file)), 1 << 16));
                byte version = in.readByte();
                if (version < OLDEST || version > VERSION) {
                    in.close();
                    throw new CannotGoOn(Problem.of(
                            ProblemCode.FILE_MALFORMED,
                            "What the steps made of the rows was kept by another version of Nachlauf.",
                            "What was written stands in the ledger; start the job again."));
                }
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }

        /** The next row; null at the end. */
        public byte @Nullable [] next() {
            try {
                int length = length();
                return length == END ? null : bytes(length);
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }

        /** Passes over the next row; false at the end. */
        public boolean pass() {
            try {
                int length = length();
                if (length != END) {
                    in.skipNBytes(length);
                }
                return length != END;
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }

        /** How long the next row is; where there is none, the last word is read. */
        private int length() throws IOException {
            if (lastWord != null) {
                return END;
            }
            int length = in.readInt();
            if (length == END) {
                lastWord = bytes(in.readInt());
            }
            return length;
        }

        /** What stands behind the rows; to be asked for at the end. */
        public byte[] lastWord() {
            if (lastWord == null) {
                throw new IllegalStateException("the last word is read at the end");
            }
            return lastWord.clone();
        }

        private byte[] bytes(int length) throws IOException {
            byte[] bytes = new byte[length];
            in.readFully(bytes);
            return bytes;
        }

        @Override
        public void close() {
            try {
                in.close();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }
}
