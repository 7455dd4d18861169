package dev.nachlauf.core.spool;

import java.io.IOException;
import java.io.InterruptedIOException;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;

/**
 * Writes a file that is on disk, whole, once it is closed. Its bytes are forced there while more of them arrive, so that
 * little is left to wait for at the end. For one thread.
 */
public final class ForcedOutput extends OutputStream {
    private static final int STRETCH = 8 << 20;

    /** Has all that was written so far on disk. */
    interface Force {
        void force() throws IOException;
    }

    private final OutputStream out;
    private final Force disk;
    private final int stretch;
    private FutureTask<Void> forcing;
    private long unforced;
    private boolean closed;

    private ForcedOutput(FileChannel file) {
        this(Channels.newOutputStream(file), () -> file.force(true), STRETCH);
    }

    ForcedOutput(OutputStream out, Force disk, int stretch) {
        this.out = out;
        this.disk = disk;
        this.stretch = stretch;
        this.forcing = new FutureTask<>(() -> null);
        forcing.run();
    }

    /** Begins a file; what one of this name held is gone. */
    public static ForcedOutput of(Path file) throws IOException {
        return new ForcedOutput(FileChannel.open(
                file, StandardOpenOption.WRITE, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING));
    }

    @Override
    public void write(int value) throws IOException {
        write(new byte[] {(byte) value}, 0, 1);
    }

    @Override
    public void write(byte[] bytes, int from, int length) throws IOException {
        out.write(bytes, from, length);
        unforced += length;
        if (unforced >= stretch && forcing.isDone()) {
            settle();
            unforced = 0;
            forcing = new FutureTask<>(() -> {
                disk.force();
                return null;
            });
            Thread.ofVirtual().name("forces").start(forcing);
        }
    }

    /**
     * Waits until all of it is on disk.
     *
     * @throws IOException where some of it isn't, also of an earlier stretch: the system tells of a page that it could
     *     not write once, and takes it for written from then on
     */
    @Override
    public void close() throws IOException {
        if (closed) {
            return;
        }
        closed = true;
        try (out) {
            settle();
            disk.force();
        }
    }

    private void settle() throws IOException {
        try {
            forcing.get();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw (IOException) new InterruptedIOException().initCause(e);
        } catch (ExecutionException e) {
            throw e.getCause() instanceof IOException failed ? failed : new IOException(e.getCause());
        }
    }
}
