package dev.nachlauf.standins.certificate;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.List;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;

/**
 * A certificate that nobody has signed, made by the JDK's tool: the libraries have no way to make one.
 *
 * @param store a PKCS 12 file with it and its key
 * @param sha256 of the certificate, in hex
 */
public record OwnCertificate(Path store, String sha256) {
    /** The password of the file. */
    public static final String PASSWORD = "changeit";

    private static final String ALIAS = "standin";

    /** Makes one in a folder. */
    public static OwnCertificate make(Path folder) throws IOException, GeneralSecurityException {
        Path store = folder.resolve("store.p12");
        Process tool = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "keytool")
                                .toString(),
                        "-genkeypair",
                        "-alias",
                        ALIAS,
                        "-keyalg",
                        "EC",
                        "-dname",
                        "CN=localhost",
                        "-ext",
                        "san=ip:127.0.0.1",
                        "-validity",
                        "3650",
                        "-storetype",
                        "PKCS12",
                        "-storepass",
                        PASSWORD,
                        "-keystore",
                        store.toString())
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start();
        try {
            if (tool.waitFor() != 0) {
                throw new IOException("keytool made no certificate");
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException(e);
        }
        byte[] digest = MessageDigest.getInstance("SHA-256")
                .digest(keys(store).getCertificate(ALIAS).getEncoded());
        return new OwnCertificate(store, HexFormat.of().formatHex(digest));
    }

    /** The call that makes a key and a certificate of their own files, for localhost and nothing else. */
    public static List<String> call(Path key, Path certificate) {
        return List.of(
                "/usr/bin/openssl",
                "req",
                "-x509",
                "-newkey",
                "rsa:2048",
                "-nodes",
                "-days",
                "2",
                "-subj",
                "/CN=localhost",
                "-addext",
                "subjectAltName=DNS:localhost",
                "-keyout",
                key.toString(),
                "-out",
                certificate.toString());
    }

    private static KeyStore keys(Path store) throws IOException, GeneralSecurityException {
        KeyStore keys = KeyStore.getInstance("PKCS12");
        try (InputStream bytes = Files.newInputStream(store)) {
            keys.load(bytes, PASSWORD.toCharArray());
        }
        return keys;
    }

    /** For a server that shows it. */
    public SSLContext context() throws IOException, GeneralSecurityException {
        KeyManagerFactory managers = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
        managers.init(keys(store), PASSWORD.toCharArray());
        SSLContext context = SSLContext.getInstance("TLS");
        context.init(managers.getKeyManagers(), null, null);
        return context;
    }
}
