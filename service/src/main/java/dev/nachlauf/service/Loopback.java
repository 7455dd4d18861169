package dev.nachlauf.service;

import java.util.Set;

/** The machine itself. */
public final class Loopback {
    /** Its names in requests. */
    public static final Set<String> NAMES = Set.of("localhost", "127.0.0.1", "[::1]", "0:0:0:0:0:0:0:1");

    private Loopback() {}

    /** Whether an address is reached from this machine only. */
    public static boolean is(String address) {
        return NAMES.contains(address) || address.equals("::1");
    }
}
