package dev.nachlauf.service.file;

import dev.nachlauf.api.FileView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.spool.Disk;
import dev.nachlauf.core.spool.ForcedOutput;
import dev.nachlauf.core.spool.SharedFolder;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.service.NachlaufSettings;
import dev.nachlauf.service.store.Hashes;
import dev.nachlauf.service.store.NameLock;
import dev.nachlauf.service.store.Texts;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.BooleanSupplier;
import java.util.regex.Pattern;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/** Keeps files under the SHA-256 of their content; the same content is kept once. */
@Service
public class FileStore {
    /** So long a file that this process has hashed is believed to be the same. */
    private static final Duration PROVEN = Duration.ofMinutes(10);

    private static final Pattern HASH = Pattern.compile("[0-9a-f]{64}");
    private static final int SHARD = 2;
    private static final String ARRIVING = "arriving";
    private static final String LOCK = "file";

    private final Map<String, Proven> proven = new ConcurrentHashMap<>();
    private final Path folder;
    private final StoredFileRepository repository;
    private final NameLock lock;
    private final TransactionTemplate transactions;
    private final Clock clock;

    FileStore(
            NachlaufSettings settings,
            StoredFileRepository repository,
            NameLock lock,
            TransactionTemplate transactions,
            Clock clock)
            throws IOException {
        this.folder = settings.home().resolve("files").toAbsolutePath();
        this.repository = repository;
        this.lock = lock;
        this.transactions = transactions;
        this.clock = clock;
        Files.createDirectories(folder);
    }

    /** A file as this process has seen it when it knew its content. */
    private record Proven(long size, FileTime modified, Instant until) {}

    /**
     * Keeps a stream's bytes; memory does not grow with them. The file is on disk, under its name, before anything can
     * refer to it.
     *
     * @throws CannotGoOn with {@code disk-full} where there is no room for it
     */
    public FileView keep(String name, InputStream bytes) throws IOException {
        Path arriving = arriving();
        try {
            Hashes.Content content = written(bytes, arriving);
            transactions.executeWithoutResult(status -> {
                // whoever removes this content is done, or will see that it is wanted again
                lock.hold(LOCK, content.hash());
                place(arriving, content.hash());
                repository.note(content.hash(), content.size(), clock.instant());
            });
            prove(content.hash());
            return new FileView(content.hash(), Texts.storable(name), content.size());
        } finally {
            Files.deleteIfExists(arriving);
        }
    }

    private void place(Path arriving, String hash) {
        Path place = place(hash);
        try {
            Path shard = Files.createDirectories(Objects.requireNonNull(place.getParent()));
            Files.move(arriving, place, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
            Disk.forceEntries(shard);
            Disk.forceEntries(folder);
        } catch (IOException e) {
            throw Disk.failure(e, folder);
        }
    }

    /**
     * Removes a file's bytes, and marks it so.
     *
     * @param unneeded asked once nobody can keep the same content in the meantime
     * @return whether it was removed
     */
    public boolean removeIf(String hash, BooleanSupplier unneeded) {
        return Boolean.TRUE.equals(transactions.execute(status -> {
            lock.hold(LOCK, hash);
            if (!unneeded.getAsBoolean() || repository.remove(hash, clock.instant()) == 0) {
                return false;
            }
            try {
                Files.deleteIfExists(place(hash));
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
            return true;
        }));
    }

    /** Removes what a process that was killed was about to keep; the answer is how many files. */
    public int removeLeftBehind() {
        Instant before = clock.instant().minus(ScratchSpace.LEFT_BEHIND);
        int removed = 0;
        try {
            for (SharedFolder.Entry entry : SharedFolder.entries(folder)) {
                boolean arriving = entry.path().getFileName().toString().startsWith(ARRIVING);
                boolean old = entry.attributes().lastModifiedTime().toInstant().isBefore(before);
                removed += arriving && old && Files.deleteIfExists(entry.path()) ? 1 : 0;
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return removed;
    }

    private Path arriving() {
        try {
            return Files.createTempFile(folder, ARRIVING, null);
        } catch (IOException e) {
            throw Disk.failure(e, folder);
        }
    }

    /**
     * Writes what arrives, until it is on disk. What fails to be read is the sender's matter, what fails to be written is
     * ours.
     */
    private Hashes.Content written(InputStream bytes, Path arriving) throws IOException {
        try (OutputStream out = new FilterOutputStream(ForcedOutput.of(arriving)) {
            @Override
            public void write(byte[] buffer, int from, int length) {
                try {
                    out.write(buffer, from, length);
                } catch (IOException e) {
                    throw Disk.failure(e, folder);
                }
            }

            @Override
            public void close() {
                try {
                    out.close();
                } catch (IOException e) {
                    throw Disk.failure(e, folder);
                }
            }
        }) {
            return Hashes.copy(bytes, out);
        }
    }

    /** Refuses what can't fit before it is sent. */
    void requireRoom(long size) {
        try {
            if (size > Files.getFileStore(folder).getUsableSpace()) {
                throw Disk.full(folder);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /**
     * Makes sure that a kept file is what it was when it was kept.
     *
     * @throws CannotGoOn where it is gone or was changed
     */
    public void verify(String hash) {
        Path path = place(hash);
        if (!Files.isRegularFile(path)) {
            throw missing(hash);
        }
        Proven before = proven.get(hash);
        if (before != null
                && before.equals(seen(path, before.until))
                && clock.instant().isBefore(before.until)) {
            return;
        }
        if (!Hashes.of(path).hash().equals(hash)) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_MALFORMED,
                    "The kept file " + hash + " was damaged after it was kept.",
                    "Check the disk of " + folder + ", then start the job again."));
        }
        prove(hash);
    }

    /** For a while the file need not be read again to be believed, as long as nobody writes to it. */
    private void prove(String hash) {
        Instant now = clock.instant();
        proven.values().removeIf(one -> one.until.isBefore(now));
        proven.put(hash, seen(place(hash), now.plus(PROVEN)));
    }

    private static Proven seen(Path path, Instant until) {
        try {
            return new Proven(Files.size(path), Files.getLastModifiedTime(path), until);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A kept file, which is used from now on. */
    public FileView find(String hash, String name) {
        repository.used(hash, clock.instant());
        return repository
                .findById(hash)
                .filter(file -> file.removedAt == null)
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
