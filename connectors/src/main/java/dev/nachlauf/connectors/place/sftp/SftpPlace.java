package dev.nachlauf.connectors.place.sftp;

import dev.nachlauf.connectors.place.FilePattern;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.TakesFiles;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import org.apache.sshd.client.SshClient;
import org.apache.sshd.client.session.ClientSession;
import org.apache.sshd.common.NamedResource;
import org.apache.sshd.common.SshException;
import org.apache.sshd.common.config.keys.KeyUtils;
import org.apache.sshd.common.util.security.SecurityUtils;
import org.apache.sshd.sftp.client.SftpClient;
import org.apache.sshd.sftp.client.SftpClientFactory;
import org.apache.sshd.sftp.common.SftpConstants;
import org.apache.sshd.sftp.common.SftpException;
import org.jspecify.annotations.Nullable;

/** The files of one folder on an SFTP host. Signs in when it is first needed. */
final class SftpPlace implements TakesFiles {
    private static final Duration PATIENCE = Duration.ofSeconds(20);

    private final String host;
    private final int port;
    private final String user;
    private final String hostKey;
    private final String path;
    private final Duration quiet;
    private final Settings settings;
    private @Nullable SshClient client;
    private @Nullable ClientSession session;
    private @Nullable SftpClient sftp;

    SftpPlace(Settings settings) {
        this.settings = settings;
        this.host = settings.required(SftpType.HOST);
        this.port = settings.integer(SftpType.PORT, SftpType.USUAL_PORT, 1, 65_535);
        this.user = settings.required(SftpType.USER);
        this.hostKey = settings.required(SftpType.HOST_KEY);
        this.path = settings.text(SftpType.PATH).orElse(".");
        this.quiet = FilePattern.quiet(settings);
    }

    @Override
    public Duration quiet() {
        return quiet;
    }

    @Override
    public Greeting greet() {
        try {
            SftpClient open = sftp();
            String folder = open.canonicalPath(path);
            if (!open.stat(folder).isDirectory()) {
                throw problem(SftpType.PATH, ProblemCode.FILE_MISSING, "There is no folder " + path + ".");
            }
            return new Greeting("sftp " + host + " " + folder, user, true, null);
        } catch (IOException e) {
            throw failed(e);
        }
    }

    private SftpClient sftp() {
        if (sftp != null) {
            return sftp;
        }
        String[] found = {""};
        SshClient opened = SshClient.setUpDefaultClient();
        client = opened;
        opened.setServerKeyVerifier((session, address, key) -> {
            found[0] = KeyUtils.getFingerPrint(key);
            return hostKey.equals(found[0]);
        });
        opened.start();
        try {
            ClientSession connected =
                    opened.connect(user, host, port).verify(PATIENCE).getSession();
            session = connected;
            identify(connected);
            connected.auth().verify(PATIENCE);
            SftpClient signedIn = SftpClientFactory.instance().createSftpClient(connected);
            sftp = signedIn;
            return signedIn;
        } catch (IOException e) {
            close();
            if (!found[0].isEmpty() && !found[0].equals(hostKey)) {
                throw problem(
                        SftpType.HOST_KEY,
                        ProblemCode.HOST_UNKNOWN,
                        "The host " + host + " shows the key " + found[0] + ", not the one that is stated.");
            }
            throw failed(e);
        }
    }

    private void identify(ClientSession connected) throws IOException {
        Optional<String> key = settings.secret(SftpType.PRIVATE_KEY);
        if (key.isPresent()) {
            try (InputStream in = new ByteArrayInputStream(key.get().getBytes(StandardCharsets.UTF_8))) {
                Iterable<KeyPair> pairs = SecurityUtils.loadKeyPairIdentities(
                        connected, NamedResource.ofName(SftpType.PRIVATE_KEY), in, null);
                for (KeyPair pair : pairs == null ? List.<KeyPair>of() : pairs) {
                    connected.addPublicKeyIdentity(pair);
                }
            } catch (GeneralSecurityException e) {
                throw problem(SftpType.PRIVATE_KEY, ProblemCode.SETTING_MALFORMED, "The private key can't be read.");
            }
        }
        settings.secret(SftpType.PASSWORD).ifPresent(connected::addPasswordIdentity);
    }

    private CannotGoOn failed(IOException e) {
        if (e instanceof SftpException answer && answer.getStatus() == SftpConstants.SSH_FX_NO_SUCH_FILE) {
            return problem(SftpType.PATH, ProblemCode.FILE_MISSING, "There is no " + path + " on " + host + ".");
        }
        if (e instanceof SftpException answer && answer.getStatus() == SftpConstants.SSH_FX_PERMISSION_DENIED) {
            return problem(SftpType.PATH, ProblemCode.NOT_PERMITTED, "The account may not do that in " + path + ".");
        }
        if (e instanceof SshException && String.valueOf(e.getMessage()).contains("authentication")) {
            return problem(SftpType.USER, ProblemCode.SIGN_IN_REFUSED, host + " refuses the account " + user + ".");
        }
        return new CannotGoOn(
                Problem.at(
                        new Place.InSetting(SftpType.HOST),
                        ProblemCode.UNREACHABLE,
                        host + ":" + port + " can't be reached.",
                        "Check host and port, and whether the host is up."),
                e);
    }

    private static CannotGoOn problem(String setting, ProblemCode code, String sentence) {
        return new CannotGoOn(
                Problem.at(new Place.InSetting(setting), code, sentence, "Correct the connection and save it."));
    }

    @Override
    public List<FoundFile> find(String pattern) {
        Predicate<String> matches = FilePattern.matcher(pattern);
        List<FoundFile> found = new ArrayList<>();
        try {
            for (SftpClient.DirEntry entry : sftp().readDir(path)) {
                SftpClient.Attributes attributes = entry.getAttributes();
                if (attributes.isRegularFile() && matches.test(entry.getFilename())) {
                    Instant modified = attributes.getModifyTime() == null
                            ? Instant.EPOCH
                            : attributes.getModifyTime().toInstant();
                    found.add(new FoundFile(entry.getFilename(), attributes.getSize(), modified));
                }
            }
        } catch (IOException e) {
            throw failed(e);
        }
        found.sort(Comparator.comparing(FoundFile::name));
        return found;
    }

    @Override
    public InputStream open(FoundFile file) {
        try {
            return sftp().read(path + "/" + file.name());
        } catch (IOException e) {
            throw failed(e);
        }
    }

    @Override
    public void put(String name, Path content) {
        String unfinished = path + "/" + FilePattern.unfinished(name);
        String whole = path + "/" + name;
        try {
            SftpClient open = sftp();
            try (OutputStream out = open.write(unfinished)) {
                Files.copy(content, out);
            }
            replace(open, unfinished, whole);
        } catch (IOException e) {
            throw failed(e);
        }
    }

    /** Older versions of the protocol rename only to what is not there, which is set aside until the new file is in place. */
    private static void replace(SftpClient open, String unfinished, String whole) throws IOException {
        try {
            open.rename(unfinished, whole, SftpClient.CopyMode.Atomic, SftpClient.CopyMode.Overwrite);
            return;
        } catch (UnsupportedOperationException e) {
            // said above
        }
        try {
            open.rename(unfinished, whole);
        } catch (SftpException e) {
            String before = unfinished + ".before";
            open.rename(whole, before);
            try {
                open.rename(unfinished, whole);
            } catch (SftpException again) {
                open.rename(before, whole);
                throw again;
            }
            open.remove(before);
        }
    }

    @Override
    public void close() {
        try (SshClient open = client;
                ClientSession signedIn = session;
                SftpClient channel = sftp) {
            client = null;
            session = null;
            sftp = null;
        } catch (IOException e) {
            // nothing more can be done for a connection that is to be closed
        }
    }
}
