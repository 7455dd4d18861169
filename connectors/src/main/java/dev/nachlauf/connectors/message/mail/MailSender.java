package dev.nachlauf.connectors.message.mail;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.TellsPeople;
import jakarta.mail.Address;
import jakarta.mail.MessagingException;
import jakarta.mail.SendFailedException;
import jakarta.mail.Session;
import jakarta.mail.Transport;
import jakarta.mail.internet.AddressException;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Date;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.eclipse.angus.mail.smtp.SMTPAddressFailedException;
import org.eclipse.angus.mail.smtp.SMTPSendFailedException;
import org.eclipse.angus.mail.smtp.SMTPSenderFailedException;

/** Sends mails by way of one server. */
final class MailSender implements TellsPeople {
    private final MailServer server;
    private final String from;
    private final List<String> usual;

    MailSender(Settings settings) {
        this.server = new MailServer(settings);
        this.from = settings.required(MailType.FROM);
        this.usual = settings.text(MailType.TO)
                .map(to -> Stream.of(to.split(","))
                        .map(String::strip)
                        .filter(address -> !address.isEmpty())
                        .toList())
                .orElse(List.of());
    }

    @Override
    public Optional<String> unfit(List<String> receivers) {
        List<String> told = receivers.isEmpty() ? usual : receivers;
        if (told.isEmpty()) {
            return Optional.of("Neither the job nor the connection says whose address a mail goes to.");
        }
        return Stream.concat(Stream.of(from), told.stream())
                .filter(address -> parsed(address).isEmpty())
                .findFirst()
                .map(address -> "'" + address + "' is not an e-mail address.");
    }

    private static Optional<InternetAddress> parsed(String address) {
        try {
            InternetAddress parsed = new InternetAddress(address, true);
            return address.contains("@") && address.chars().noneMatch(Character::isISOControl)
                    ? Optional.of(parsed)
                    : Optional.empty();
        } catch (AddressException e) {
            return Optional.empty();
        }
    }

    @Override
    public Greeting greet() {
        unfit(usual.isEmpty() ? List.of(from) : usual).ifPresent(why -> {
            throw new CannotGoOn(Problem.of(ProblemCode.RECEIVER_UNFIT, why, "Correct the connection's from and to."));
        });
        return server.visit(
                server.session(), open -> new Greeting("mail server " + server.host(), server.name(), false, null));
    }

    @Override
    public String tell(Message message) {
        unfit(message.receivers()).ifPresent(why -> {
            throw new CannotGoOn(Problem.of(ProblemCode.RECEIVER_UNFIT, why, "Correct the addresses."));
        });
        Session session = server.session();
        return server.visit(session, open -> sent(open, mail(message, session)));
    }

    private MimeMessage mail(Message message, Session session) throws MessagingException {
        String id = "<" + message.id() + "@"
                + from.substring(from.lastIndexOf('@') + 1).replace(">", "") + ">";
        MimeMessage mail = new MimeMessage(session) {
            @Override
            protected void updateMessageID() throws MessagingException {
                setHeader("Message-ID", id);
            }
        };
        mail.setFrom(parsed(from).orElseThrow());
        List<String> told = message.receivers().isEmpty() ? usual : message.receivers();
        mail.setRecipients(
                jakarta.mail.Message.RecipientType.TO,
                told.stream().flatMap(to -> parsed(to).stream()).toArray(Address[]::new));
        mail.setSubject(message.title(), StandardCharsets.UTF_8.name());
        mail.setSentDate(Date.from(message.at()));
        // no absence note answers it (RFC 3834)
        mail.setHeader("Auto-Submitted", "auto-generated");
        mail.setText(message.text(), StandardCharsets.UTF_8.name());
        mail.saveChanges();
        return mail;
    }

    private String sent(Transport open, MimeMessage mail) throws MessagingException {
        Address[] all = mail.getAllRecipients();
        try {
            open.sendMessage(mail, all);
            return "Sent to " + words(all) + ".";
        } catch (SendFailedException e) {
            Address[] sent = e.getValidSentAddresses();
            if (sent != null && sent.length > 0) {
                return "Sent to " + words(sent) + "; " + server + " refuses " + words(e.getInvalidAddresses()) + ".";
            }
            throw new CannotGoOn(
                    Problem.of(
                            passes(e) ? ProblemCode.UNREACHABLE : ProblemCode.MESSAGE_REFUSED,
                            server + " doesn't take the mail: " + answer(e) + ".",
                            "Check the addresses of sender and receivers."),
                    e);
        }
    }

    private static String words(Address[] addresses) {
        return Arrays.stream(addresses).map(Address::toString).collect(Collectors.joining(", "));
    }

    /** Whether a server has refused it for now only: its answers begin with 4 then. */
    private static boolean passes(SendFailedException refusal) {
        return codes(refusal).findAny().isPresent() && codes(refusal).allMatch(code -> code / 100 == 4);
    }

    private static Stream<Integer> codes(SendFailedException refusal) {
        return Stream.<Exception>iterate(
                        refusal,
                        each -> each != null,
                        each -> each instanceof MessagingException more ? more.getNextException() : null)
                .map(MailSender::code)
                .filter(code -> code > 0);
    }

    private static int code(Exception refusal) {
        return switch (refusal) {
            case SMTPSendFailedException whole -> whole.getReturnCode();
            case SMTPSenderFailedException sender -> sender.getReturnCode();
            case SMTPAddressFailedException address -> address.getReturnCode();
            default -> 0;
        };
    }

    /** What the server has said of the first thing that it refuses. */
    private static String answer(SendFailedException refusal) {
        Exception first = refusal.getNextException() == null ? refusal : refusal.getNextException();
        return String.valueOf(first.getMessage()).strip().replaceAll("\\s+", " ");
    }

    /** Each mail opens and closes its own connection. */
    @Override
    public void close() {}
}
