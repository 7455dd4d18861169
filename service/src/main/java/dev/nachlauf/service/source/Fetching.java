package dev.nachlauf.service.source;

import dev.nachlauf.api.FileView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.HoldsFiles.Conditional;
import dev.nachlauf.core.system.HoldsFiles.FoundFile;
import dev.nachlauf.service.file.FileStore;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/**
 * Copies files of places into the store. A file that may still be written is not taken: one that was touched a moment ago
 * is waited for, and one that changes while it is copied is left for the next time.
 */
@Component
class Fetching {
    private static final Duration STEP = Duration.ofMillis(200);

    private final FileStore files;
    private final FetchedFileRepository fetched;
    private final Clock clock;

    Fetching(FileStore files, FetchedFileRepository fetched, Clock clock) {
        this.files = files;
        this.fetched = fetched;
        this.clock = clock;
    }

    /**
     * What was fetched.
     *
     * @param unfinished files that are still being written
     */
    record Fetch(List<FileView> files, List<FoundFile> unfinished) {}

    /** All files that match a pattern, by name. */
    Fetch all(String connection, HoldsFiles place, String pattern) {
        Listing listing = quiet(place, pattern);
        List<FileView> kept = new ArrayList<>();
        List<FoundFile> unfinished = new ArrayList<>();
        for (FoundFile file : listing.last()) {
            Optional<FileView> copy = place.quiet().isZero() || listing.isQuiet(file)
                    ? copied(connection, place, file)
                    : Optional.empty();
            copy.ifPresentOrElse(kept::add, () -> unfinished.add(file));
        }
        return new Fetch(kept, unfinished);
    }

    /**
     * What a place showed.
     *
     * @param first before waiting
     * @param last after it
     * @param latest when a file was touched at the latest that has lain long enough
     * @param now the time of the last look
     */
    private record Listing(List<FoundFile> first, List<FoundFile> last, Instant latest, Instant now) {
        boolean isAnyYoung() {
            return last.stream().anyMatch(file -> file.modified().isAfter(latest));
        }

        /** A time in the future says nothing but that the place's clock is ahead: then the file itself has to stay as it is. */
        boolean isQuiet(FoundFile file) {
            return !file.modified().isAfter(latest)
                    || file.modified().isAfter(now) && first.stream().anyMatch(before -> isSame(before, file));
        }
    }

    private static boolean isSame(FoundFile one, FoundFile other) {
        return one.name().equals(other.name())
                && one.size() == other.size()
                && one.modified().equals(other.modified());
    }

    /** Waits as long as a file has to lie untouched, no longer: a file that is being written stays young. */
    private Listing quiet(HoldsFiles place, String pattern) {
        Instant end = clock.instant().plus(place.quiet()).plus(STEP);
        List<FoundFile> first = place.find(pattern);
        Listing listing = listing(place, first, first);
        while (listing.now().isBefore(end) && listing.isAnyYoung()) {
            try {
                Thread.sleep(STEP);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return listing;
            }
            listing = listing(place, first, place.find(pattern));
        }
        return listing;
    }

    private Listing listing(HoldsFiles place, List<FoundFile> first, List<FoundFile> last) {
        Instant now = clock.instant();
        return new Listing(first, last, now.minus(place.quiet()), now);
    }

    /** Empty where the file changed while it was copied. */
    private Optional<FileView> copied(String connection, HoldsFiles place, FoundFile file) {
        try {
            if (place instanceof Conditional conditional) {
                return Optional.of(conditional(connection, conditional, file));
            }
            FileView kept;
            try (InputStream bytes = place.open(file)) {
                kept = files.keep(file.name(), bytes);
            }
            boolean same = place.find(file.name()).stream().anyMatch(now -> isSame(now, file));
            return same && (file.size() < 0 || file.size() == kept.size()) ? Optional.of(kept) : Optional.empty();
        } catch (IOException | UncheckedIOException e) {
            throw new CannotGoOn(
                    Problem.of(
                            ProblemCode.UNREACHABLE,
                            "The file " + file.name() + " could not be fetched to its end from " + connection + ".",
                            "Try again; nothing of it was taken."),
                    e);
        }
    }

    private FileView conditional(String connection, Conditional place, FoundFile file) throws IOException {
        FetchedFile.Id id = new FetchedFile.Id(connection, file.name());
        Optional<FetchedFile> before = fetched.findById(id);
        String version = before.map(last -> last.version).orElse("");
        Optional<InputStream> bytes = place.openUnless(file, version);
        if (bytes.isEmpty()) {
            return files.find(before.orElseThrow().hash, file.name());
        }
        try (InputStream in = bytes.get()) {
            FileView kept = files.keep(file.name(), in);
            if (file.size() >= 0 && kept.size() != file.size()) {
                throw new IOException("the server announced another size");
            }
            if (!file.version().isEmpty()) {
                FetchedFile now = before.orElseGet(FetchedFile::new);
                now.id = id;
                now.version = file.version();
                now.hash = kept.hash();
                fetched.save(now);
            }
            return kept;
        }
    }
}
