package dev.nachlauf.service.access;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** What a caller may do. Each role may do all that the ones before it may. */
public enum Role {
    /** See everything but what is sensitive, and look at sources. */
    LOOK,
    /** Upload files; start, stop, release and discard runs. */
    RUN,
    /** Save jobs, crosswalks and pieces. */
    BUILD,
    /** Save connections, make and retire tokens, see who did what. */
    ADMINISTER;

    /** The word for people and documents. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The role of this word. */
    public static Optional<Role> of(String word) {
        return Arrays.stream(values()).filter(role -> role.word().equals(word)).findFirst();
    }

    /** Whether this role may do what {@code needed} may. */
    public boolean includes(Role needed) {
        return compareTo(needed) >= 0;
    }
}
