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
import java.io.IOException;
import java.security.GeneralSecurityException;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLException;
import javax.net.ssl.TrustManager;
import org.eclipse.angus.mail.util.MailConnectException;

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

    /** Signs in. Who asks closes it. */
    Transport connect(Session session) throws MessagingException {
        Transport transport = session.getTransport("smtp");
        try {
            transport.connect(
                    host,
                    port,
                    user.orElse(null),
                    settings.secret(MailType.PASSWORD).orElse(null));
            return transport;
        } catch (AuthenticationFailedException e) {
            throw problem(MailType.USER, ProblemCode.SIGN_IN_REFUSED, this + " refuses the account " + name() + ".");
        } catch (MailConnectException e) {
            throw unreachable(e);
        } catch (MessagingException e) {
            if (e.getCause() instanceof IOException && !(e.getCause() instanceof SSLException)) {
                throw unreachable(e);
            }
            throw problem(
                    MailType.TLS,
                    ProblemCode.TLS_REFUSED,
                    this + " offers no TLS, or shows a certificate that is neither signed by a known authority nor the"
                            + " stated one.");
        }
    }

    CannotGoOn unreachable(MessagingException e) {
        return new CannotGoOn(
                Problem.at(
                        new Place.InSetting(MailType.HOST),
                        ProblemCode.UNREACHABLE,
                        this + " can't be reached.",
                        "Check host and port, and whether the host is up."),
                e);
    }

    private static CannotGoOn problem(String setting, ProblemCode code, String sentence) {
        return new CannotGoOn(
                Problem.at(new Place.InSetting(setting), code, sentence, "Correct the connection and save it."));
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
