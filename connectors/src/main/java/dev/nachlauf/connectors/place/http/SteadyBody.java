package dev.nachlauf.connectors.place.http;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.time.Duration;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/**
 * The body of an answer, which must keep coming: a server that sends next to nothing while somebody reads is given up.
 * Reading fails then.
 */
final class SteadyBody extends FilterInputStream {
    private static final ScheduledExecutorService WATCH = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().name("http-body-watch").daemon().factory());

    private final long least;
    private final Future<?> watching;
    private long read;
    private long readBefore;
    private boolean slow;
    /** Who waits for bytes; only changed and interrupted under the monitor. */
    private @Nullable Thread reader;

    /**
     * @param every how often to look
     * @param least the bytes that have to come between two looks
     */
    SteadyBody(InputStream body, Duration every, long least) {
        super(body);
        this.least = least;
        long millis = every.toMillis();
        watching = WATCH.scheduleWithFixedDelay(this::look, millis, millis, TimeUnit.MILLISECONDS);
    }

    private synchronized void look() {
        // whoever takes long over what it has read is not the server's fault
        if (reader != null && read - readBefore < least) {
            slow = true;
            reader.interrupt();
        }
        readBefore = read;
    }

    private synchronized void begin() {
        reader = Thread.currentThread();
    }

    private synchronized boolean end(int bytes) {
        reader = null;
        read += Math.max(0, bytes);
        if (slow) {
            // the interrupt was meant for this reading only
            Thread.interrupted();
        }
        return slow;
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] bytes, int start, int length) throws IOException {
        begin();
        int count = 0;
        try {
            count = in.read(bytes, start, length);
        } finally {
            if (end(count)) {
                throw new IOException("the server sends too slowly");
            }
        }
        return count;
    }

    @Override
    public void close() throws IOException {
        watching.cancel(false);
        super.close();
    }
}
