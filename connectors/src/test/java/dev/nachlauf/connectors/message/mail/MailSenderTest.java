package dev.nachlauf.connectors.message.mail;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.TellsPeople;
import dev.nachlauf.core.system.TellsPeople.Message;
import dev.nachlauf.standins.MailHost;
import dev.nachlauf.standins.MailHost.Mail;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;

/** A real mail server on loopback. */
@Execution(ExecutionMode.SAME_THREAD) // its tests share a mailbox
class MailSenderTest {
    private static MailHost plain;
    private static MailHost secured;

    @BeforeAll
    static void start() {
        plain = MailHost.start("guides", "s3cret", false);
        secured = MailHost.start("guides", "s3cret", true);
    }

    @AfterAll
    static void stop() {
        plain.close();
        secured.close();
    }

    private static TellsPeople sender(MailHost host, Map<String, String> settings) {
        Map<String, String> all = new HashMap<>(Map.of(
                "host",
                "127.0.0.1",
                "port",
                String.valueOf(host.port()),
                "user",
                "guides",
                "password",
                "env:MAIL",
                "from",
                "nachlauf@union.example",
                "to",
                "office@union.example, duty@union.example"));
        all.putAll(settings);
        return new MailSender(new Settings(all, reference -> "s3cret"));
    }

    private static TellsPeople plain() {
        return sender(plain, Map.of("tls", "off"));
    }

    private static Message message(String... receivers) {
        return new Message(
                "run-12",
                Instant.parse("2026-05-04T06:00:00Z"),
                "Run 12 of hütten has failed",
                "Hütten: two lines,\nthis is the second.\n",
                "{}",
                List.of(receivers));
    }

    private static Mail last(MailHost host) {
        return host.mails().getLast();
    }

    @Test
    void isReadByThoseWhomTheConnectionNames() {
        assertThat(plain().tell(message())).isEqualTo("Sent to office@union.example, duty@union.example.");
        Mail mail = last(plain);
        assertThat(mail.from()).isEqualTo("nachlauf@union.example");
        assertThat(mail.to()).containsExactly("office@union.example", "duty@union.example");
        assertThat(mail.source())
                .contains("From: nachlauf@union.example", "To: office@union.example, duty@union.example")
                .contains("Message-ID: <run-12@union.example>", "Auto-Submitted: auto-generated")
                .contains("Date: Mon, 4 May 2026")
                .contains("Subject: =?UTF-8?Q?Run_12_of_h=C3=BCtten_has_failed?=")
                .contains("H=C3=BCtten: two lines,\r\nthis is the second.");
    }

    @Test
    void isReadByThoseWhomTheJobNames() {
        assertThat(plain().tell(message("warden@hut.example"))).isEqualTo("Sent to warden@hut.example.");
        assertThat(last(plain).to()).containsExactly("warden@hut.example");
    }

    @Test
    void reachesTheOthersWhereOneAddressIsRefused() {
        assertThat(plain().tell(message("nobody@union.example", "warden@hut.example")))
                .isEqualTo("Sent to warden@hut.example; 127.0.0.1:" + plain.port() + " refuses nobody@union.example.");
        assertThat(last(plain).to()).containsExactly("warden@hut.example");
    }

    @Test
    void isRefusedForGoodOrForNow() {
        assertThatThrownBy(() -> plain().tell(message("nobody@union.example")))
                .isInstanceOfSatisfying(CannotGoOn.class, e -> {
                    assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.MESSAGE_REFUSED);
                    assertThat(e.isTemporary()).isFalse();
                })
                .hasMessageContaining("550 no such mailbox");
        assertThatThrownBy(() -> plain().tell(message("later@union.example")))
                .isInstanceOfSatisfying(
                        CannotGoOn.class, e -> assertThat(e.isTemporary()).isTrue())
                .hasMessageContaining("450 mailbox is busy");
        plain.setFull(true);
        try {
            assertThatThrownBy(() -> plain().tell(message()))
                    .isInstanceOfSatisfying(
                            CannotGoOn.class, e -> assertThat(e.isTemporary()).isTrue())
                    .hasMessageContaining("452 no room at the moment");
        } finally {
            plain.setFull(false);
        }
    }

    @Test
    void isEncryptedUnlessTheConnectionSaysOtherwise() {
        TellsPeople pinned = sender(secured, Map.of("certificate", secured.certificate()));
        assertThat(pinned.greet().system()).isEqualTo("mail server 127.0.0.1");
        pinned.tell(message());
        assertThat(last(secured).source()).contains("run-12@union.example");
        String refused = "offers no TLS, or shows a certificate";
        assertThatThrownBy(() -> sender(plain, Map.of()).tell(message())).hasMessageContaining(refused);
        assertThatThrownBy(() -> sender(secured, Map.of()).tell(message())).hasMessageContaining(refused);
        assertThatThrownBy(() ->
                        sender(secured, Map.of("certificate", "00".repeat(32))).tell(message()))
                .hasMessageContaining(refused);
    }

    @Test
    void saysWhatIsWrongWithTheConnection() {
        TellsPeople stranger =
                new MailSender(new Settings(settingsOf("user", "somebody"), reference -> "not-the-secret"));
        assertThatThrownBy(stranger::greet)
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.SIGN_IN_REFUSED))
                .hasMessageContaining("refuses the account somebody")
                .hasMessageNotContaining("not-the-secret");
        assertThatThrownBy(() -> sender(plain, Map.of("tls", "maybe")))
                .hasMessageContaining("tls is explicit, implicit or off, but maybe was found.");
        assertThatThrownBy(
                        () -> sender(plain, Map.of("tls", "off", "port", "1")).greet())
                .isInstanceOfSatisfying(
                        CannotGoOn.class, e -> assertThat(e.isTemporary()).isTrue());
    }

    /** A server that has no time to begin with is no server without TLS. */
    @Test
    void isTriedAgainWhereTheServerIsTooBusyToBegin() throws Exception {
        try (ScriptedHost busy = new ScriptedHost("421 too busy, come back")) {
            assertThatThrownBy(() -> sender(busy, Map.of()).tell(message()))
                    .isInstanceOfSatisfying(
                            CannotGoOn.class, e -> assertThat(e.isTemporary()).isTrue())
                    .hasMessageContaining("421 too busy, come back");
        }
    }

    /** Else it would be told twice. */
    @Test
    void isSentThoughTheServerLeavesWithoutAGoodbye() throws Exception {
        try (ScriptedHost brusque = new ScriptedHost(
                "220 ready", "250 hello", "250 sender", "250 one", "250 two", "354 go on", "250 taken")) {
            assertThat(sender(brusque, Map.of("tls", "off")).tell(message()))
                    .isEqualTo("Sent to office@union.example, duty@union.example.");
        }
    }

    private static TellsPeople sender(ScriptedHost host, Map<String, String> settings) {
        Map<String, String> all = new HashMap<>(Map.of(
                "host", "127.0.0.1",
                "port", String.valueOf(host.port()),
                "from", "nachlauf@union.example",
                "to", "office@union.example, duty@union.example"));
        all.putAll(settings);
        return new MailSender(new Settings(all, reference -> ""));
    }

    private static Map<String, String> settingsOf(String name, String value) {
        Map<String, String> settings = new HashMap<>(Map.of(
                "host",
                "127.0.0.1",
                "port",
                String.valueOf(plain.port()),
                "tls",
                "off",
                "password",
                "env:MAIL",
                "from",
                "nachlauf@union.example"));
        settings.put(name, value);
        return settings;
    }

    @Test
    void knowsWhatIsNoAddress() {
        assertThat(plain().unfit(List.of())).isEmpty();
        assertThat(plain().unfit(List.of("warden@hut.example"))).isEmpty();
        assertThat(plain().unfit(List.of("warden"))).hasValue("'warden' is not an e-mail address.");
        assertThat(plain().unfit(List.of("warden@hut.example\r\nBcc: all@union.example")))
                .isPresent();
        assertThat(sender(plain, Map.of("to", " ")).unfit(List.of()))
                .hasValue("Neither the job nor the connection says whose address a mail goes to.");
        int before = plain.mails().size();
        assertThatThrownBy(() -> plain().tell(message("warden"))).isInstanceOf(CannotGoOn.class);
        assertThat(plain.mails()).hasSize(before);
    }
}
