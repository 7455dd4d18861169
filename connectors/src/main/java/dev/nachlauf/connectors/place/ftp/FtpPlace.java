package dev.nachlauf.connectors.place.ftp;

import dev.nachlauf.connectors.certificate.PinnedCertificate;
import dev.nachlauf.connectors.place.FilePattern;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.TakesFiles;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.Predicate;
import javax.net.ssl.SSLException;
import org.apache.commons.net.ftp.FTP;
import org.apache.commons.net.ftp.FTPClient;
import org.apache.commons.net.ftp.FTPFile;
import org.apache.commons.net.ftp.FTPReply;
import org.apache.commons.net.ftp.FTPSClient;
import org.apache.commons.net.util.TrustManagerUtils;
import org.jspecify.annotations.Nullable;

/** The files of one folder on an FTP host. Signs in when it is first needed. */
final class FtpPlace implements TakesFiles {
    private static final Duration PATIENCE = Duration.ofSeconds(20);
    private static final String OFF = "off";
    private static final String IMPLICIT = "implicit";

    private final String host;
    private final int port;
    private final String user;
    private final String path;
    private final String tls;
    private final Duration quiet;
    private final Settings settings;
    private @Nullable FTPClient client;

    FtpPlace(Settings settings) {
        this.settings = settings;
        this.host = settings.required(FtpType.HOST);
        this.port = settings.integer(FtpType.PORT, FtpType.USUAL_PORT, 1, 65_535);
        this.user = settings.required(FtpType.USER);
        this.path = settings.text(FtpType.PATH).orElse("");
        this.tls = settings.text(FtpType.TLS).orElse("explicit");
        this.quiet = FilePattern.quiet(settings);
        requireOneLine(FtpType.USER, user);
        requireOneLine(FtpType.PATH, path);
        if (!List.of(OFF, IMPLICIT, "explicit").contains(tls)) {
            throw problem(
                    FtpType.TLS,
                    ProblemCode.SETTING_MALFORMED,
                    "tls is explicit, implicit or off, but " + tls + " was found.");
        }
    }

    /** A command of the protocol ends with its line: what follows in a setting would be one of its own. */
    private static void requireOneLine(String setting, String text) {
        if (text.chars().anyMatch(Character::isISOControl)) {
            throw problem(
                    setting, ProblemCode.SETTING_MALFORMED, setting + " holds a line break or a control character.");
        }
    }

    @Override
    public Duration quiet() {
        return quiet;
    }

    @Override
    public Greeting greet() {
        try {
            return new Greeting("ftp " + host + " " + client().printWorkingDirectory(), user, true, null);
        } catch (IOException e) {
            throw unreachable(e);
        }
    }

    private FTPClient client() {
        if (client != null) {
            return client;
        }
        FTPClient opened = opened();
        try {
            opened.setConnectTimeout((int) PATIENCE.toMillis());
            opened.setDefaultTimeout((int) PATIENCE.toMillis());
            opened.setDataTimeout(PATIENCE);
            opened.setControlEncoding("UTF-8");
            opened.connect(host, port);
            client = opened;
            if (!FTPReply.isPositiveCompletion(opened.getReplyCode())) {
                throw unreachable(null);
            }
            signIn(opened);
            return opened;
        } catch (SSLException e) {
            close();
            throw problem(
                    FtpType.CERTIFICATE,
                    ProblemCode.HOST_UNKNOWN,
                    host + " shows a certificate that is neither signed by a known authority nor the stated one, or"
                            + " speaks no TLS.");
        } catch (IOException e) {
            close();
            throw unreachable(e);
        }
    }

    private FTPClient opened() {
        if (tls.equals(OFF)) {
            return new FTPClient();
        }
        FTPSClient secured = new FTPSClient(tls.equals(IMPLICIT));
        secured.setEndpointCheckingEnabled(settings.text(FtpType.CERTIFICATE).isEmpty());
        settings.text(FtpType.CERTIFICATE)
                .ifPresentOrElse(pinned -> secured.setTrustManager(new PinnedCertificate(pinned)), () -> {
                    try {
                        secured.setTrustManager(TrustManagerUtils.getDefaultTrustManager(null));
                    } catch (java.security.GeneralSecurityException e) {
                        throw new IllegalStateException(e);
                    }
                });
        return secured;
    }

    private void signIn(FTPClient opened) throws IOException {
        String password = settings.secret(FtpType.PASSWORD).orElse("");
        requireOneLine(FtpType.PASSWORD, password);
        if (!opened.login(user, password)) {
            close();
            throw problem(FtpType.USER, ProblemCode.SIGN_IN_REFUSED, host + " refuses the account " + user + ".");
        }
        if (opened instanceof FTPSClient secured) {
            secured.execPBSZ(0);
            secured.execPROT("P");
        }
        opened.enterLocalPassiveMode();
        opened.setFileType(FTP.BINARY_FILE_TYPE);
        if (!path.isEmpty() && !opened.changeWorkingDirectory(path)) {
            close();
            throw problem(FtpType.PATH, ProblemCode.FILE_MISSING, "There is no folder " + path + " on " + host + ".");
        }
    }

    private CannotGoOn unreachable(@Nullable IOException e) {
        Problem problem = Problem.at(
                new Place.InSetting(FtpType.HOST),
                ProblemCode.UNREACHABLE,
                host + ":" + port + " can't be reached.",
                "Check host and port, and whether the host is up.");
        return e == null ? new CannotGoOn(problem) : new CannotGoOn(problem, e);
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
            FTPClient open = client();
            FTPFile[] files = open.hasFeature("MLSD") ? open.mlistDir() : open.listFiles();
            for (FTPFile file : files) {
                if (file != null && file.isFile() && matches.test(file.getName())) {
                    Instant modified = file.getTimestampInstant() == null ? Instant.EPOCH : file.getTimestampInstant();
                    found.add(new FoundFile(file.getName(), file.getSize(), modified));
                }
            }
        } catch (IOException e) {
            throw unreachable(e);
        }
        found.sort(Comparator.comparing(FoundFile::name));
        return found;
    }

    @Override
    public InputStream open(FoundFile file) {
        try {
            FTPClient open = client();
            InputStream bytes = open.retrieveFileStream(file.name());
            if (bytes == null) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.FILE_MISSING,
                        host + " doesn't give " + file.name() + ".",
                        "Check whether it is still there and may be read."));
            }
            return new FilterInputStream(bytes) {
                private boolean closed;

                @Override
                public void close() throws IOException {
                    super.close();
                    if (closed) {
                        return;
                    }
                    closed = true;
                    if (!open.completePendingCommand()) {
                        throw new IOException("the transfer of " + file.name() + " was not completed");
                    }
                }
            };
        } catch (IOException e) {
            throw unreachable(e);
        }
    }

    @Override
    public void put(String name, Path content) {
        String unfinished = FilePattern.unfinished(name);
        try (InputStream bytes = Files.newInputStream(content)) {
            FTPClient open = client();
            require(open.storeFile(unfinished, bytes), "write", name);
            if (!open.rename(unfinished, name)) {
                replace(open, unfinished, name);
            }
        } catch (IOException e) {
            throw unreachable(e);
        }
    }

    /** For hosts that rename only to what is not there: what was there is set aside until the new file is in its place. */
    private void replace(FTPClient open, String unfinished, String name) throws IOException {
        String before = unfinished + ".before";
        require(open.rename(name, before), "replace", name);
        boolean there = open.rename(unfinished, name);
        if (!there) {
            open.rename(before, name);
        }
        require(there, "replace", name);
        open.deleteFile(before);
    }

    private void require(boolean done, String what, String name) {
        if (!done) {
            throw problem(
                    FtpType.PATH,
                    ProblemCode.NOT_PERMITTED,
                    host + " doesn't let the account " + user + " " + what + " " + name + ".");
        }
    }

    @Override
    public void close() {
        FTPClient open = client;
        client = null;
        if (open != null) {
            try {
                open.disconnect();
            } catch (IOException e) {
                // nothing more can be done for a connection that is to be closed
            }
        }
    }
}
