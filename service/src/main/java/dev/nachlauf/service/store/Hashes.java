package dev.nachlauf.service.store;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/** SHA-256 of files, by which content is known. */
public final class Hashes {
    private static final int BUFFER = 1 << 20;

    private Hashes() {}

    /** What a content is: its hash in hex and its size in bytes. */
    public record Content(String hash, long size) {}

    /** What a stream holds; it is closed. */
    public static Content of(InputStream bytes) {
        try (bytes) {
            return copy(bytes, OutputStream.nullOutputStream());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** What a file holds. */
    public static Content of(Path file) {
        try (InputStream in = Files.newInputStream(file)) {
            return copy(in, OutputStream.nullOutputStream());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Copies a stream to its end and says what it held. */
    public static Content copy(InputStream bytes, OutputStream out) throws IOException {
        MessageDigest digest;
        try {
            digest = MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
        DigestInputStream in = new DigestInputStream(bytes, digest);
        byte[] buffer = new byte[BUFFER];
        long size = 0;
        for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
            out.write(buffer, 0, read);
            size += read;
        }
        return new Content(HexFormat.of().formatHex(digest.digest()), size);
    }
}
