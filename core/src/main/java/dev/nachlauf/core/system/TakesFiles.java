package dev.nachlauf.core.system;

import java.nio.file.Path;

/** A place to which files can be delivered. */
public interface TakesFiles extends HoldsFiles {
    /**
     * Delivers a file: it is there whole under its name, or not at all. A file that has the name already is replaced.
     *
     * @param name without a path
     * @throws dev.nachlauf.core.problem.CannotGoOn where the place can't be reached, or may not be written
     */
    void put(String name, Path content);
}
