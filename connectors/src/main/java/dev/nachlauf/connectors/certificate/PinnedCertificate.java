package dev.nachlauf.connectors.certificate;

import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.cert.CertificateException;
import java.security.cert.X509Certificate;
import java.util.HexFormat;
import java.util.Locale;
import javax.net.ssl.X509TrustManager;

/** Trusts one certificate: that of the host that the connection names. */
public final class PinnedCertificate implements X509TrustManager {
    private final String sha256;

    /** @param sha256 of the certificate, in hex; colons and capitals don't matter */
    public PinnedCertificate(String sha256) {
        this.sha256 = sha256.replace(":", "").toLowerCase(Locale.ROOT);
    }

    @Override
    public void checkServerTrusted(X509Certificate[] chain, String type) throws CertificateException {
        try {
            byte[] digest = MessageDigest.getInstance("SHA-256").digest(chain[0].getEncoded());
            if (!HexFormat.of().formatHex(digest).equals(sha256)) {
                throw new CertificateException("another certificate than the stated one");
            }
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    @Override
    public void checkClientTrusted(X509Certificate[] chain, String type) throws CertificateException {
        throw new CertificateException("no client signs in here");
    }

    @Override
    public X509Certificate[] getAcceptedIssuers() {
        return new X509Certificate[0];
    }
}
