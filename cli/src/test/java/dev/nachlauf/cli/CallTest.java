package dev.nachlauf.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

/** What becomes of a call whose answer is lost. */
class CallTest {
    /** Whoever asks for a run must not get two of them. */
    @Test
    void aCallIsMadeOnce() throws Exception {
        AtomicInteger calls = new AtomicInteger();
        StringWriter err = new StringWriter();
        Thread mute;
        try (ServerSocket server = new ServerSocket(0, 5, InetAddress.getLoopbackAddress())) {
            mute = Thread.ofPlatform().daemon().start(() -> hangUp(server, calls));
            int status = Nachlauf.run(
                    new Surroundings(
                            Path.of(""),
                            Map.of("NACHLAUF_SERVER", "http://127.0.0.1:" + server.getLocalPort()),
                            InputStream.nullInputStream(),
                            new PrintWriter(new StringWriter()),
                            new PrintWriter(err, true)),
                    "run",
                    "stop",
                    "1");
            assertThat(status).isEqualTo(ExitStatus.UNREACHABLE);
        }
        mute.join();
        assertThat(err.toString()).contains("can't be reached");
        assertThat(calls).hasValue(1);
    }

    /** Reads each call, and answers nothing. */
    private static void hangUp(ServerSocket server, AtomicInteger calls) {
        byte[] some = new byte[4_096];
        while (true) {
            try (Socket call = server.accept()) {
                calls.incrementAndGet();
                assertThat(call.getInputStream().read(some)).isPositive();
            } catch (IOException e) {
                return;
            }
        }
    }
}
