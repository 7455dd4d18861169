package dev.nachlauf.connectors.message.mail;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;

/** A mail host that gives one caller its answers in order, and then breaks the line at the next command. */
final class ScriptedHost implements AutoCloseable {
    private final ServerSocket server = new ServerSocket(0, 1, InetAddress.getLoopbackAddress());
    private final String[] answers;

    ScriptedHost(String... answers) throws IOException {
        this.answers = answers;
        Thread.ofVirtual().start(this::serve);
    }

    int port() {
        return server.getLocalPort();
    }

    private void serve() {
        try (Socket caller = server.accept();
                BufferedReader commands =
                        new BufferedReader(new InputStreamReader(caller.getInputStream(), StandardCharsets.US_ASCII))) {
            for (int at = 0; at < answers.length; at++) {
                if (at > 0) {
                    read(commands, answers[at - 1].startsWith("354"));
                }
                caller.getOutputStream().write((answers[at] + "\r\n").getBytes(StandardCharsets.US_ASCII));
            }
            read(commands, false);
            // nothing is left to say: the caller sees a reset, not an end
            caller.setSoLinger(true, 0);
        } catch (IOException e) {
            // the caller has gone, or the test is over
        }
    }

    /** @param mail whether the mail itself follows, which ends with a point on a line of its own */
    private static void read(BufferedReader commands, boolean mail) throws IOException {
        String line = commands.readLine();
        while (mail && line != null && !line.equals(".")) {
            line = commands.readLine();
        }
    }

    @Override
    public void close() throws IOException {
        server.close();
    }
}
