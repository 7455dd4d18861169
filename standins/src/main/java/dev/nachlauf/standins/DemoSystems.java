package dev.nachlauf.standins;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.concurrent.atomic.AtomicInteger;

/** The systems beside the register that the demo speaks to, in one process: a file drop, and a mail server. */
public final class DemoSystems {
    private DemoSystems() {}

    /**
     * Starts them and stays up. The password of their one account comes from the environment.
     *
     * @param arguments the folder of the drop, the account, a folder for the mails that come, and a file for what the demo
     *     has to know
     */
    public static void main(String[] arguments) throws IOException, InterruptedException {
        String password = System.getenv("NACHLAUF_SECRET_DROP");
        FileDrop drop = FileDrop.start(Path.of(arguments[0]), arguments[1], password, "");
        Path mails = Files.createDirectories(Path.of(arguments[2]));
        AtomicInteger number = new AtomicInteger();
        MailHost mail = MailHost.start(
                arguments[1],
                password,
                true,
                come -> keep(come.source(), mails.resolve("mail-" + number.incrementAndGet() + ".eml")));
        Path facts = Path.of(arguments[3]);
        keep(
                "SFTP_PORT=%d%nFTP_PORT=%d%nHOST_KEY=%s%nCERTIFICATE=%s%nMAIL_PORT=%d%nMAIL_CERTIFICATE=%s%n"
                        .formatted(
                                drop.sftpPort(),
                                drop.ftpPort(),
                                drop.hostKey(),
                                drop.certificate(),
                                mail.port(),
                                mail.certificate()),
                facts);
        Thread.currentThread().join();
    }

    /** The file is there whole, or not at all. */
    private static void keep(String text, Path file) {
        try {
            Path arriving = file.resolveSibling(file.getFileName() + ".arriving");
            Files.writeString(arriving, text);
            Files.move(arriving, file, StandardCopyOption.ATOMIC_MOVE);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
