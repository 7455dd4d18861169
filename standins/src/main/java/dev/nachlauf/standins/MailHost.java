package dev.nachlauf.standins;

import dev.nachlauf.standins.certificate.OwnCertificate;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.subethamail.smtp.MessageHandler;
import org.subethamail.smtp.RejectException;
import org.subethamail.smtp.auth.EasyAuthenticationHandlerFactory;
import org.subethamail.smtp.auth.LoginFailedException;
import org.subethamail.smtp.server.SMTPServer;

/**
 * A mail server on loopback that keeps what it gets. It has one account, offers TLS when it is asked to, and has addresses
 * that it refuses: those of {@code nobody} for good, and those of {@code later} for now.
 */
public final class MailHost implements AutoCloseable {
    private final SMTPServer server;
    private final OwnCertificate certificate;
    private final Path own;
    private final List<Mail> mails = new CopyOnWriteArrayList<>();
    private volatile boolean full;

    /**
     * A mail that has come.
     *
     * @param to the addresses that were taken
     * @param source the whole mail as it came
     */
    public record Mail(String from, List<String> to, String source) {}

    private MailHost(String user, String password, boolean tls, Consumer<Mail> comes)
            throws IOException, GeneralSecurityException {
        this.own = Files.createTempDirectory("mail-host");
        this.certificate = OwnCertificate.make(own);
        this.server = SMTPServer.port(0)
                .bindAddress(InetAddress.getByName("127.0.0.1"))
                .hostName("localhost")
                .softwareName("mail host")
                .insertReceivedHeaders(false)
                .enableTLS(tls)
                .hideTLS(!tls)
                .requireTLS(tls)
                .startTlsSocketFactory(certificate.context(), false)
                .authenticationHandlerFactory(new EasyAuthenticationHandlerFactory((name, given, context) -> {
                    if (!name.equals(user) || !given.equals(password)) {
                        throw new LoginFailedException();
                    }
                }))
                .requireAuth()
                .messageHandlerFactory(context -> new Taking(comes))
                .build();
    }

    /**
     * Starts it.
     *
     * @param tls whether it offers, and then demands, TLS
     */
    public static MailHost start(String user, String password, boolean tls) {
        return start(user, password, tls, mail -> {});
    }

    /** Starts one that tells of each mail. */
    public static MailHost start(String user, String password, boolean tls, Consumer<Mail> comes) {
        try {
            MailHost host = new MailHost(user, password, tls, comes);
            host.server.start();
            return host;
        } catch (IOException | GeneralSecurityException e) {
            throw new IllegalStateException("the mail host did not start", e);
        }
    }

    public int port() {
        return server.getPortAllocated();
    }

    /** The SHA-256 of its certificate in hex. */
    public String certificate() {
        return certificate.sha256();
    }

    /** What has come so far. */
    public List<Mail> mails() {
        return List.copyOf(mails);
    }

    /** Has it refuse every mail for now, or take mails again. */
    public void setFull(boolean isFull) {
        full = isFull;
    }

    @Override
    public void close() {
        server.stop();
        try {
            Files.delete(certificate.store());
            Files.delete(own);
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
    }

    private final class Taking implements MessageHandler {
        private final Consumer<Mail> comes;
        private final List<String> to = new ArrayList<>();
        private String from = "";

        private Taking(Consumer<Mail> comes) {
            this.comes = comes;
        }

        @Override
        public void from(String address) throws RejectException {
            if (full) {
                throw new RejectException(452, "no room at the moment");
            }
            from = address;
        }

        @Override
        public void recipient(String address) throws RejectException {
            if (address.startsWith("nobody@")) {
                throw new RejectException(550, "no such mailbox");
            }
            if (address.startsWith("later@")) {
                throw new RejectException(450, "mailbox is busy");
            }
            to.add(address);
        }

        @Override
        public @Nullable String data(InputStream bytes) throws IOException {
            Mail mail = new Mail(from, List.copyOf(to), new String(bytes.readAllBytes(), StandardCharsets.UTF_8));
            mails.add(mail);
            comes.accept(mail);
            return null;
        }

        @Override
        public void done() {}
    }
}
