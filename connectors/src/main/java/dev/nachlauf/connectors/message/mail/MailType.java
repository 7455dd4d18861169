package dev.nachlauf.connectors.message.mail;

import dev.nachlauf.core.system.Reach;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.SystemType;
import java.util.List;

/** People who are told by e-mail. */
public final class MailType implements SystemType {
    static final String HOST = "host";
    static final String PORT = "port";
    static final String USER = "user";
    static final String PASSWORD = "password";
    static final String FROM = "from";
    static final String TO = "to";
    static final String TLS = "tls";
    static final String CERTIFICATE = "certificate";

    @Override
    public String type() {
        return "mail";
    }

    @Override
    public String help() {
        return "People who are told by e-mail, over SMTP.";
    }

    @Override
    public List<Setting> settings() {
        return List.of(
                Setting.required(HOST, "the name or address of the mail server"),
                Setting.optional(PORT, "587 unless stated; 465 where tls is implicit, 25 where it is off"),
                Setting.optional(USER, "the account; none unless stated"),
                Setting.secret(PASSWORD, "the account's password"),
                Setting.required(FROM, "the address of the sender"),
                Setting.optional(TO, "the addresses of those who are told where a job names none, separated by commas"),
                Setting.optional(TLS, "explicit (the default), implicit, or off for plain SMTP"),
                Setting.optional(
                        CERTIFICATE,
                        "the SHA-256 of the host's certificate in hex, where no known authority has signed it"));
    }

    @Override
    public Reach reach(Settings settings) {
        return new Reach.Host(settings.required(HOST));
    }

    @Override
    public Class<MailSender> opens() {
        return MailSender.class;
    }

    @Override
    public MailSender open(Settings settings) {
        return new MailSender(settings);
    }
}
