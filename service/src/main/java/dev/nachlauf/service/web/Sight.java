package dev.nachlauf.service.web;

import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;

/**
 * Whether whoever calls is shown sensitive values. It holds for what the thread of a request answers itself; work that goes
 * on elsewhere, such as looks, whose results are kept for a while, shows them to nobody.
 */
public final class Sight {
    /** The authority of callers who are. */
    public static final String AUTHORITY = "SEES_SENSITIVE";

    private Sight() {}

    static boolean isFull() {
        Authentication caller = SecurityContextHolder.getContext().getAuthentication();
        return caller != null
                && caller.getAuthorities().stream().anyMatch(granted -> AUTHORITY.equals(granted.getAuthority()));
    }
}
