package dev.nachlauf.core.system;

import java.nio.file.Path;

/** What a connection leads to, so that an installation can say how far its connections may lead. */
public sealed interface Reach {
    /** A host, by name or address; IPv6 addresses without brackets. */
    record Host(String name) implements Reach {}

    /** A folder of the service's own machine. */
    record Folder(Path path) implements Reach {}
}
