package dev.nachlauf.connectors.database;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Settings;
import java.util.regex.Pattern;

/** The host of a database. It becomes part of a driver's address, in which other characters would be options. */
public final class HostName {
    private static final Pattern NAME = Pattern.compile("[A-Za-z0-9]([A-Za-z0-9._-]{0,252}[A-Za-z0-9])?");
    private static final Pattern ADDRESS_OF_VERSION_6 = Pattern.compile("\\[[0-9A-Fa-f:.]{2,45}]");

    private HostName() {}

    /**
     * The setting {@code host}; 127.0.0.1 where it is not given.
     *
     * @throws CannotGoOn with {@code setting-malformed} where it is neither a name nor an address
     */
    public static String of(Settings settings) {
        String host = settings.text("host").orElse("127.0.0.1");
        if (NAME.matcher(host).matches() || ADDRESS_OF_VERSION_6.matcher(host).matches()) {
            return host;
        }
        throw new CannotGoOn(
                Problem.of(
                        ProblemCode.SETTING_MALFORMED,
                        "The setting host is neither the name of a host nor an address.",
                        "Write it without port and options, an IPv6 address in brackets; port and database are settings of their own."));
    }
}
