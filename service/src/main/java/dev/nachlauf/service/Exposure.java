package dev.nachlauf.service;

import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** What it takes to let other machines reach the service: nobody does so by one setting that looked harmless. */
public final class Exposure {
    /** The names of this machine in requests from itself. */
    public static final Set<String> LOOPBACK = Set.of("localhost", "127.0.0.1", "[::1]", "0:0:0:0:0:0:0:1");

    private static final String ADDRESS = "NACHLAUF_ADDRESS";
    private static final String HOSTS = "NACHLAUF_HOSTS";
    private static final String CERTIFICATE = "NACHLAUF_TLS_CERTIFICATE";
    private static final String KEY = "NACHLAUF_TLS_KEY";

    private Exposure() {}

    /** Whether an address is reached from this machine only. */
    public static boolean isLoopback(String address) {
        return LOOPBACK.contains(address) || address.equals("::1");
    }

    /** Why the service may not be started so; empty where it may. */
    static Optional<String> problem(Map<String, String> environment) {
        boolean certificate = !environment.getOrDefault(CERTIFICATE, "").isBlank();
        boolean key = !environment.getOrDefault(KEY, "").isBlank();
        if (certificate != key) {
            return Optional.of(CERTIFICATE + " and " + KEY + " go together: both name a PEM file.");
        }
        String address = environment.getOrDefault(ADDRESS, "127.0.0.1");
        if (isLoopback(address)) {
            return Optional.empty();
        }
        if (!certificate) {
            return Optional.of(
                    "At " + address + " other machines reach the service, so it needs TLS. Name PEM files in "
                            + CERTIFICATE + " and " + KEY + ", or keep " + ADDRESS + " on loopback.");
        }
        if (environment.getOrDefault(HOSTS, "").isBlank()) {
            return Optional.of(
                    "At " + address + " other machines reach the service, so it must know its names. List them" + " in "
                            + HOSTS + ", separated by commas.");
        }
        return Optional.empty();
    }

    /** The service's certificate, where it has one. */
    static Map<String, Object> tls(Map<String, String> environment) {
        String certificate = environment.getOrDefault(CERTIFICATE, "");
        return certificate.isBlank()
                ? Map.of()
                : Map.of(
                        "server.ssl.certificate",
                        "file:" + certificate,
                        "server.ssl.certificate-private-key",
                        "file:" + environment.getOrDefault(KEY, ""));
    }
}
