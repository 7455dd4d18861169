package dev.nachlauf.core.run;

import dev.nachlauf.core.system.SourceFormat.SourceReader;

/** Opens the kept source anew, for each pass over it. */
@FunctionalInterface
public interface SourceSupply {
    /** A reader at the first row. */
    SourceReader open();
}
