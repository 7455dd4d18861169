package dev.nachlauf.core.system;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/** A wrapping around source files, such as an archive. Implementations are found by the service loader. */
public interface SourceContainer {
    /**
     * The files inside, by name; empty where the bytes are none of this kind of wrapping.
     *
     * @param scratch an existing folder for files that have to be unpacked to be read; the caller empties it
     * @throws dev.nachlauf.core.problem.CannotGoOn where it is damaged or larger than is allowed
     */
    Optional<List<SourceBytes>> members(SourceBytes bytes, Path scratch) throws IOException;
}
