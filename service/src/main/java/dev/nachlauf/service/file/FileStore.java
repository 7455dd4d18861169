package dev.nachlauf.service.file;

import dev.nachlauf.api.FileView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.service.NachlaufSettings;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Clock;
import java.util.HexFormat;
import java.util.regex.Pattern;
import org.springframework.stereotype.Service;

/** Keeps files under the SHA-256 of their content; the same content is kept once. */
@Service
public class FileStore {
    private static final Pattern HASH = Pattern.compile("[0-9a-f]{64}");
    private static final int SHARD = 2;

    private final Path folder;
    private final StoredFileRepository repository;
    private final Clock clock;

    FileStore(NachlaufSettings settings, StoredFileRepository repository, Clock clock) throws IOException {
        this.folder = settings.home().resolve("files").toAbsolutePath();
        this.repository = repository;
        this.clock = clock;
        Files.createDirectories(folder);
    }

    /** Keeps a stream's bytes; memory does not grow with them. */
    public FileView keep(String name, InputStream bytes) {
        try {
            Path arriving = Files.createTempFile(folder, "arriving", null);
            try {
                MessageDigest digest = MessageDigest.getInstance("SHA-256");
                long size;
                try (DigestInputStream in = new DigestInputStream(bytes, digest);
                        OutputStream out = Files.newOutputStream(arriving)) {
                    size = in.transferTo(out);
                }
                String hash = HexFormat.of().formatHex(digest.digest());
                Path place = place(hash);
                Files.createDirectories(place.getParent());
                Files.move(arriving, place, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
                if (!repository.existsById(hash)) {
                    StoredFile file = new StoredFile();
                    file.hash = hash;
                    file.size = size;
                    file.storedAt = clock.instant();
                    repository.save(file);
                }
                return new FileView(hash, name, size);
            } finally {
                Files.deleteIfExists(arriving);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    /** A kept file. */
    public FileView find(String hash, String name) {
        return repository
                .findById(hash)
                .map(file -> new FileView(file.hash, name, file.size))
                .orElseThrow(() -> missing(hash));
    }

    /** The bytes of a kept file, under a name for people. */
    public SourceBytes bytes(String hash, String name) {
        Path path = place(hash);
        if (!Files.isRegularFile(path)) {
            throw missing(hash);
        }
        return SourceBytes.of(name, path);
    }

    private Path place(String hash) {
        if (!HASH.matcher(hash).matches()) {
            throw missing("of this name");
        }
        return folder.resolve(hash.substring(0, SHARD)).resolve(hash);
    }

    private static CannotGoOn missing(String hash) {
        return new CannotGoOn(
                Problem.of(ProblemCode.FILE_MISSING, "No file " + hash + " is kept.", "Upload the file again."));
    }
}
