package dev.nachlauf.service.access;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Map;
import org.springframework.web.servlet.HandlerMapping;

/** What a call does, for the record of who did what. */
public final class Deed {
    private static final String ABOUT = Deed.class.getName();

    private Deed() {}

    /** Says what a call was about whose address does not. */
    public static void about(HttpServletRequest request, Object what) {
        request.setAttribute(ABOUT, String.valueOf(what));
    }

    /** What a call was about: as it was said, or the parts of its address. */
    static String about(HttpServletRequest request) {
        if (request.getAttribute(ABOUT) instanceof String said) {
            return said;
        }
        return request.getAttribute(HandlerMapping.URI_TEMPLATE_VARIABLES_ATTRIBUTE) instanceof Map<?, ?> parts
                ? String.join(" ", parts.values().stream().map(String::valueOf).toList())
                : "";
    }
}
