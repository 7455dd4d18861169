package dev.nachlauf.connectors.format.packed;

import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceContainer;
import java.io.BufferedInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.zip.GZIPInputStream;
import java.util.zip.ZipException;

/** A file packed with gzip. */
public final class Gzip implements SourceContainer {
    private static final String ENDING = ".gz";

    @Override
    public Optional<List<SourceBytes>> members(SourceBytes bytes, Path scratch) throws IOException {
        try (InputStream in = bytes.open()) {
            byte[] mark = in.readNBytes(2);
            if (mark.length < 2 || (mark[0] & 0xFF) != 0x1F || (mark[1] & 0xFF) != 0x8B) {
                Packing.refuseByName(bytes.file(), ENDING);
                return Optional.empty();
            }
        }
        String name = bytes.file().toLowerCase(Locale.ROOT).endsWith(ENDING)
                ? bytes.file().substring(0, bytes.file().length() - ENDING.length())
                : bytes.file();
        long packed = Files.size(bytes.path());
        return Optional.of(
                List.of(new Member(name, name, () -> new BoundedExpansion(name, opened(bytes), packed), scratch)));
    }

    private static InputStream opened(SourceBytes bytes) throws IOException {
        InputStream in = new BufferedInputStream(bytes.open());
        try {
            return new GZIPInputStream(in);
        } catch (EOFException | ZipException e) {
            in.close();
            throw Packing.damaged(bytes.file());
        }
    }
}
