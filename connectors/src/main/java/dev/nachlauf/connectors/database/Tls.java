package dev.nachlauf.connectors.database;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.Settings;
import java.security.GeneralSecurityException;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import javax.net.ssl.SSLException;

/** How a connection to a database is encrypted. */
public enum Tls {
    /** Not at all. */
    OFF,
    /** Encrypted, whoever the server is: nobody can listen, but somebody could stand in between. */
    REQUIRE,
    /** Encrypted, and the server's certificate is for its host and signed by an authority that is known. */
    VERIFY;

    /** The settings that say so. */
    public static final List<Setting> SETTINGS = List.of(
            Setting.optional("tls", "off, require or verify; verify unless given, on loopback off"),
            Setting.optional("authority", "a PEM file with the certificate of the authority that signed the server's"));

    private static final Set<String> LOOPBACK = Set.of("localhost", "127.0.0.1", "[::1]");

    /**
     * As a connection's settings say.
     *
     * @throws CannotGoOn with {@code setting-malformed} where the word is none of ours
     */
    public static Tls of(Settings settings) {
        Optional<String> word = settings.text("tls");
        if (word.isEmpty()) {
            return LOOPBACK.contains(HostName.of(settings)) ? OFF : VERIFY;
        }
        return Arrays.stream(values())
                .filter(tls -> tls.name().toLowerCase(Locale.ROOT).equals(word.get()))
                .findFirst()
                .orElseThrow(() -> new CannotGoOn(Problem.at(
                        new Place.InSetting("tls"),
                        ProblemCode.SETTING_MALFORMED,
                        "tls is off, require or verify, but " + word.get() + " was found.",
                        "Correct the connection and save it.")));
    }

    /** Whether an error is about the encryption, in which case trying again changes nothing. */
    public static boolean isRefused(Throwable error) {
        for (Throwable cause = error; cause != null; cause = cause.getCause()) {
            if (cause instanceof SSLException || cause instanceof GeneralSecurityException) {
                return true;
            }
        }
        return false;
    }

    /** What is said then. */
    public static CannotGoOn refused(String system) {
        return new CannotGoOn(Problem.at(
                new Place.InSetting("tls"),
                ProblemCode.TLS_REFUSED,
                system + " offers no TLS, or a certificate that is not its own or is signed by nobody known.",
                "Name the authority's certificate under authority:, or say tls: require or tls: off if you may."));
    }

    /** The file with the authority's certificate; empty for the authorities that Java knows. */
    public static Optional<String> authority(Settings settings) {
        return settings.text("authority");
    }
}
