package dev.nachlauf.connectors.message.mail;

import dev.nachlauf.connectors.certificate.PinnedCertificate;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Settings;
import jakarta.mail.AuthenticationFailedException;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.Transport;
import java.security.GeneralSecurityException;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLException;
import javax.net.ssl.TrustManager;
import org.eclipse.angus.mail.smtp.SMTPTransport;

/** How a mail server is reached, and what is said where it isn't. */
final class MailServer {
    private static final int PATIENCE_MILLIS = 20_000;

    /** Words of the setting, each with the usual port. */
    private enum Encryption {
        EXPLICIT(587),
        IMPLICIT(465),
        OFF(25);

        private final int port;

        Encryption(int port) {
            this.port = port;
        }
    }

    private final Settings settings;
    private final String host;
    private final int port;
    private final Encryption encryption;
    private final Optional<String> user;

    MailServer(Settings settings) {
        this.settings = settings;
        this.host = settings.required(MailType.HOST);
        this.encryption = encryption(settings.text(MailType.TLS).orElse("explicit"));
        this.port = settings.integer(MailType.PORT, encryption.port, 1, 65_535);
        this.user = settings.text(MailType.USER);
    }

    private static Encryption encryption(String word) {
        for (Encryption encryption : Encryption.values()) {
            if (encryption.name().toLowerCase(Locale.ROOT).equals(word)) {
                return encryption;
            }
        }
        throw problem(
                MailType.TLS,
                ProblemCode.SETTING_MALFORMED,
                "tls is explicit, implicit or off, but " + word + " was found.");
    }

    Session session() {
        Map<String, Object> said = Map.ofEntries(
                Map.entry("mail.smtp.connectiontimeout", PATIENCE_MILLIS),
                Map.entry("mail.smtp.timeout", PATIENCE_MILLIS),
                Map.entry("mail.smtp.writetimeout", PATIENCE_MILLIS),
                Map.entry("mail.smtp.auth", user.isPresent()),
                Map.entry("mail.smtp.starttls.enable", encryption == Encryption.EXPLICIT),
                Map.entry("mail.smtp.starttls.required", encryption == Encryption.EXPLICIT),
                Map.entry("mail.smtp.ssl.enable", encryption == Encryption.IMPLICIT),
                Map.entry(
                        "mail.smtp.ssl.checkserveridentity",
                        settings.text(MailType.CERTIFICATE).isEmpty()),
                // one address that is wrong keeps the others from nothing
                Map.entry("mail.smtp.sendpartial", true));
        Properties properties = new Properties();
        said.forEach((name, value) -> properties.put(name, String.valueOf(value)));
        settings.text(MailType.CERTIFICATE)
                .ifPresent(pinned -> properties.put("mail.smtp.ssl.socketFactory", trusting(pinned)));
        return Session.getInstance(properties);
    }

    private static Object trusting(String certificate) {
        try {
            SSLContext context = SSLContext.getInstance("TLS");
            context.init(null, new TrustManager[] {new PinnedCertificate(certificate)}, null);
            return context.getSocketFactory();
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(e);
        }
    }

    /** What is done while a server is there. */
    interface Visit<T> {
        T with(Transport open) throws MessagingException;
    }

    /**
     * Signs in, does something, and leaves. What is done is done, even if the server doesn't take its leave.
     *
     * @throws CannotGoOn where the server can't be reached, or nobody can sign in
     */
    <T> T visit(Session session, Visit<T> visit) {
        try {
            Transport open = connect(session);
            try {
                return visit.with(open);
            } finally {
                leave(open);
            }
        } catch (MessagingException e) {
            throw unreachable(this + " can't be reached.", e);
        }
    }

    private static void leave(Transport open) {
        try {
            open.close();
        } catch (MessagingException e) {
            // it has gone already
        }
    }

    private Transport connect(Session session) throws MessagingException {
        SMTPTransport transport = (SMTPTransport) session.getTransport("smtp");
        try {
            transport.connect(
                    host,
                    port,
                    user.orElse(null),
                    settings.secret(MailType.PASSWORD).orElse(null));
            return transport;
        } catch (AuthenticationFailedException e) {
            throw problem(MailType.USER, ProblemCode.SIGN_IN_REFUSED, this + " refuses the account " + name() + ".");
        } catch (MessagingException e) {
            if (isAboutTls(e, transport)) {
                throw problem(
                        MailType.TLS,
                        ProblemCode.TLS_REFUSED,
                        this + " offers no TLS, or shows a certificate that is neither signed by a known authority nor"
                                + " the stated one.");
            }
            boolean silent = transport.getLastReturnCode() <= 0;
            throw unreachable(
                    silent
                            ? this + " can't be reached."
                            : this + " doesn't let anybody in: "
                                    + transport.getLastServerResponse().strip() + ".",
                    e);
        }
    }

    /** A handshake has failed, or a server that has welcomed us has no TLS. */
    private static boolean isAboutTls(MessagingException e, SMTPTransport transport) {
        return e.getCause() instanceof SSLException || e.getCause() == null && transport.getLastReturnCode() / 100 == 2;
    }

    private CannotGoOn unreachable(String sentence, MessagingException e) {
        return new CannotGoOn(
                Problem.at(
                        new Place.InSetting(MailType.HOST),
                        ProblemCode.UNREACHABLE,
                        sentence,
                        "Check host and port, and whether the host is up."),
                e);
    }

    private static CannotGoOn problem(String setting, ProblemCode code, String sentence) {
        return new CannotGoOn(
                Problem.at(new Place.InSetting(setting), code, sentence, "Correct the connection and save it."));
    }

    String host() {
        return host;
    }

    /** The account; empty where nobody signs in. */
    String name() {
        return user.orElse("");
    }

    @Override
    public String toString() {
        return host + ":" + port;
    }
}
