package dev.nachlauf.connectors.message.webhook;

import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.time.Instant;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.stream.Collectors;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/** The headers that prove where a call comes from: a digest (RFC 9530) and a signature with a shared secret (RFC 9421). */
final class SignedCall {
    private static final String JSON = "application/json";

    private SignedCall() {}

    /**
     * The headers of a call by POST.
     *
     * @param id the same whenever the same is told again
     */
    static Map<String, String> headers(URI address, byte[] body, String id, Instant now, String secret) {
        String digest = "sha-256=" + binary(sha256(body));
        String key = "\"" + id + "\"";
        Map<String, String> signed = new LinkedHashMap<>();
        signed.put("@method", "POST");
        signed.put("@target-uri", address.toString());
        signed.put("content-type", JSON);
        signed.put("content-digest", digest);
        signed.put("idempotency-key", key);
        String parameters =
                signed.keySet().stream().map(name -> "\"" + name + "\"").collect(Collectors.joining(" ", "(", ")"))
                        + ";created=" + now.getEpochSecond() + ";alg=\"hmac-sha256\"";
        String base = signed.entrySet().stream()
                        .map(line -> "\"" + line.getKey() + "\": " + line.getValue() + "\n")
                        .collect(Collectors.joining())
                + "\"@signature-params\": " + parameters;
        return Map.of(
                "Content-Type",
                JSON,
                "Content-Digest",
                digest,
                "Idempotency-Key",
                key,
                "Signature-Input",
                "nachlauf=" + parameters,
                "Signature",
                "nachlauf=" + binary(hmac(base, secret)));
    }

    /** Bytes as structured fields hold them. */
    private static String binary(byte[] bytes) {
        return ":" + Base64.getEncoder().encodeToString(bytes) + ":";
    }

    private static byte[] sha256(byte[] bytes) {
        try {
            return MessageDigest.getInstance("SHA-256").digest(bytes);
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(e);
        }
    }

    private static byte[] hmac(String text, String secret) {
        try {
            Mac mac = Mac.getInstance("HmacSHA256");
            mac.init(new SecretKeySpec(secret.getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
            return mac.doFinal(text.getBytes(StandardCharsets.UTF_8));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(e);
        }
    }
}
