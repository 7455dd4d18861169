package dev.nachlauf.standins;

import dev.nachlauf.standins.certificate.OwnCertificate;
import java.io.IOException;
import java.net.InetAddress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.apache.ftpserver.FtpServer;
import org.apache.ftpserver.FtpServerFactory;
import org.apache.ftpserver.ftplet.FtpException;
import org.apache.ftpserver.listener.Listener;
import org.apache.ftpserver.listener.ListenerFactory;
import org.apache.ftpserver.ssl.SslConfigurationFactory;
import org.apache.ftpserver.usermanager.PropertiesUserManagerFactory;
import org.apache.ftpserver.usermanager.impl.BaseUser;
import org.apache.ftpserver.usermanager.impl.WritePermission;
import org.apache.sshd.common.config.keys.AuthorizedKeyEntry;
import org.apache.sshd.common.config.keys.KeyUtils;
import org.apache.sshd.common.config.keys.PublicKeyEntryResolver;
import org.apache.sshd.common.file.virtualfs.VirtualFileSystemFactory;
import org.apache.sshd.common.keyprovider.KeyPairProvider;
import org.apache.sshd.server.SshServer;
import org.apache.sshd.server.auth.pubkey.AuthorizedKeyEntriesPublickeyAuthenticator;
import org.apache.sshd.server.keyprovider.SimpleGeneratorHostKeyProvider;
import org.apache.sshd.sftp.server.SftpSubsystemFactory;

/** One folder behind an SFTP server and an FTP server, both with the same account. */
public final class FileDrop implements AutoCloseable {
    private static final String LOOPBACK = "127.0.0.1";

    private final SshServer sftp;
    private final FtpServer ftp;
    private final int ftpPort;
    private final String hostKey;
    private final String certificate;
    private final Path own;

    private FileDrop(SshServer sftp, FtpServer ftp, int ftpPort, String hostKey, String certificate, Path own) {
        this.sftp = sftp;
        this.ftp = ftp;
        this.ftpPort = ftpPort;
        this.hostKey = hostKey;
        this.certificate = certificate;
        this.own = own;
    }

    /**
     * Starts both servers.
     *
     * @param folder what the account sees
     * @param publicKey a line as in authorized_keys with which the account may sign in too; empty for none
     */
    public static FileDrop start(Path folder, String user, String password, String publicKey) {
        try {
            Path own = Files.createTempDirectory("file-drop");
            SimpleGeneratorHostKeyProvider keys = new SimpleGeneratorHostKeyProvider(own.resolve("host-key"));
            keys.setAlgorithm("EC");
            SshServer sftp = sftp(folder, user, password, publicKey, keys);
            sftp.start();
            OwnCertificate shown = OwnCertificate.make(own);
            Listener listener = listener(shown);
            FtpServer ftp = ftp(folder, user, password, listener);
            ftp.start();
            String hostKey = KeyUtils.getFingerPrint(
                    keys.loadKeys(null).iterator().next().getPublic());
            return new FileDrop(sftp, ftp, listener.getPort(), hostKey, shown.sha256(), own);
        } catch (IOException | FtpException | java.security.GeneralSecurityException e) {
            throw new IllegalStateException("the file drop did not start", e);
        }
    }

    private static SshServer sftp(Path folder, String user, String password, String publicKey, KeyPairProvider keys)
            throws IOException, java.security.GeneralSecurityException {
        SshServer server = SshServer.setUpDefaultServer();
        server.setHost(LOOPBACK);
        server.setPort(0);
        server.setKeyPairProvider(keys);
        server.setPasswordAuthenticator((name, given, session) -> name.equals(user) && given.equals(password));
        if (!publicKey.isEmpty()) {
            server.setPublickeyAuthenticator(new AuthorizedKeyEntriesPublickeyAuthenticator(
                    "drop",
                    null,
                    List.of(AuthorizedKeyEntry.parseAuthorizedKeyEntry(publicKey)),
                    PublicKeyEntryResolver.FAILING));
        }
        server.setSubsystemFactories(List.of(new SftpSubsystemFactory()));
        server.setFileSystemFactory(new VirtualFileSystemFactory(folder.toAbsolutePath()));
        return server;
    }

    private static Listener listener(OwnCertificate shown) throws IOException {
        SslConfigurationFactory ssl = new SslConfigurationFactory();
        ssl.setKeystoreFile(shown.store().toFile());
        ssl.setKeystorePassword(OwnCertificate.PASSWORD);
        ssl.setKeystoreType("PKCS12");
        ListenerFactory listener = new ListenerFactory();
        listener.setServerAddress(InetAddress.getByName(LOOPBACK).getHostAddress());
        listener.setPort(0);
        listener.setSslConfiguration(ssl.createSslConfiguration());
        return listener.createListener();
    }

    private static FtpServer ftp(Path folder, String user, String password, Listener listener) throws FtpException {
        BaseUser account = new BaseUser();
        account.setName(user);
        account.setPassword(password);
        account.setAuthorities(List.of(new WritePermission()));
        account.setHomeDirectory(folder.toAbsolutePath().toString());
        FtpServerFactory factory = new FtpServerFactory();
        factory.setListeners(new HashMap<>(Map.of("default", listener)));
        var users = new PropertiesUserManagerFactory().createUserManager();
        users.save(account);
        factory.setUserManager(users);
        return factory.createServer();
    }

    /** The port of the SFTP server. */
    public int sftpPort() {
        return sftp.getPort();
    }

    /** The port of the FTP server, which speaks TLS when it is asked to. */
    public int ftpPort() {
        return ftpPort;
    }

    /** The fingerprint of the SFTP server's key. */
    public String hostKey() {
        return hostKey;
    }

    /** The SHA-256 of the FTP server's certificate in hex. */
    public String certificate() {
        return certificate;
    }

    @Override
    public void close() {
        ftp.stop();
        try {
            sftp.stop(true);
            try (var files = Files.list(own)) {
                for (Path file : files.toList()) {
                    Files.delete(file);
                }
            }
            Files.delete(own);
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
    }
}
