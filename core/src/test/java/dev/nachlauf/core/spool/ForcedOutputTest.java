package dev.nachlauf.core.spool;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Queue;
import java.util.Random;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ForcedOutputTest {
    @TempDir
    Path folder;

    @Test
    void theFileHoldsWhatWasWrittenAndNothingOfBefore() throws IOException {
        byte[] bytes = new byte[20_000_003];
        new Random(7).nextBytes(bytes);
        Path file = Files.write(folder.resolve("rows"), new byte[30_000_000]);
        try (OutputStream out = ForcedOutput.of(file)) {
            out.write(bytes[0]);
            for (int from = 1; from < bytes.length; from += 1_000_000) {
                out.write(bytes, from, Math.min(1_000_000, bytes.length - from));
            }
        }
        assertThat(file).hasBinaryContent(bytes);
    }

    @Test
    void stretchesAreForcedWhileMoreArrivesAndAllOfItAtTheEnd() throws Exception {
        ByteArrayOutputStream written = new ByteArrayOutputStream();
        BlockingQueue<Integer> forced = new LinkedBlockingQueue<>();
        try (ForcedOutput out = new ForcedOutput(written, () -> forced.add(written.size()), 10)) {
            out.write(new byte[9]);
            assertThat(forced).isEmpty();
            out.write(new byte[3]);
            assertThat(forced.poll(1, TimeUnit.MINUTES)).isEqualTo(12);
        }
        assertThat(forced).containsExactly(12);
    }

    @Test
    void nobodyWaitsForAStretch() throws Exception {
        CountDownLatch slow = new CountDownLatch(1);
        Queue<String> forced = new ConcurrentLinkedQueue<>();
        ForcedOutput.Force disk = () -> {
            awaited(slow);
            forced.add("forced");
        };
        try (ForcedOutput out = new ForcedOutput(OutputStream.nullOutputStream(), disk, 10)) {
            out.write(new byte[10]);
            out.write(new byte[10]);
            assertThat(forced).isEmpty();
            slow.countDown();
        }
        assertThat(forced).hasSize(2);
    }

    @Test
    void aStretchThatCouldNotBeForcedFailsTheFileThoughTheNextOneCould() throws IOException {
        AtomicInteger calls = new AtomicInteger();
        AtomicBoolean closed = new AtomicBoolean();
        OutputStream file = new ByteArrayOutputStream() {
            @Override
            public void close() {
                closed.set(true);
            }
        };
        ForcedOutput.Force disk = () -> {
            if (calls.incrementAndGet() == 1) {
                throw new IOException("Input/output error");
            }
        };
        ForcedOutput out = new ForcedOutput(file, disk, 10);
        out.write(new byte[10]);
        assertThatThrownBy(out::close).isInstanceOf(IOException.class).hasMessage("Input/output error");
        assertThat(closed).isTrue();
        assertThat(calls).hasValue(1);
    }

    private static void awaited(CountDownLatch latch) {
        try {
            assertThat(latch.await(1, TimeUnit.MINUTES)).isTrue();
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }
}
