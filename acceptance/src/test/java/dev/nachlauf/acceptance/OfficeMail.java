package dev.nachlauf.acceptance;

import dev.nachlauf.standins.MailHost;
import java.util.List;

/** The mail server of the demo's office. */
public final class OfficeMail implements AutoCloseable {
    private final MailHost host = MailHost.start("guides", Installation.SECRET, true);

    /** Saves the demo's connection to it. */
    public void connect(Installation installation) {
        String document = Installation.read(Installation.TOP.resolve("demo-data/connections/office-mail.yaml"))
                .replace("${MAIL_PORT}", String.valueOf(host.port()))
                .replace("${MAIL_CERTIFICATE}", host.certificate())
                .replace("NACHLAUF_SECRET_DROP", "NACHLAUF_SECRET_REGISTER");
        installation.client(
                "connection",
                "save",
                installation.write("office-mail.yaml", document).toString());
    }

    /** What has come so far. */
    public List<MailHost.Mail> mails() {
        return host.mails();
    }

    @Override
    public void close() {
        host.close();
    }
}
