package dev.nachlauf.service.web;

import jakarta.servlet.http.HttpServletRequest;

/** Who calls. There are no accounts yet: on loopback a caller is believed what it says. */
public final class Caller {
    private static final String HEADER = "Nachlauf-User";
    private static final int LONGEST = 100;

    private Caller() {}

    /** The caller's name for records. */
    public static String of(HttpServletRequest request) {
        String name = request.getHeader(HEADER);
        if (name == null || name.isBlank()) {
            return "local";
        }
        String plain = name.strip().replaceAll("[^\\p{L}\\p{N} ._@-]", "");
        return plain.substring(0, Math.min(LONGEST, plain.length()));
    }
}
