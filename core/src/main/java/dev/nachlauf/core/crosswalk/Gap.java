package dev.nachlauf.core.crosswalk;

import java.util.Optional;

/** A value that a crosswalk does not translate; the scope is empty where none was given. */
public record Gap(String crosswalk, String scope, String value) {
    private static final String SEPARATOR = "\u001f";
    private static final int PARTS = 3;

    /** As the subject of a finding. */
    public String subject() {
        return String.join(SEPARATOR, crosswalk, scope, value);
    }

    /** The gap that a finding is about; empty where it is about something else. */
    public static Optional<Gap> of(String subject) {
        String[] parts = subject.split(SEPARATOR, PARTS);
        return parts.length == PARTS ? Optional.of(new Gap(parts[0], parts[1], parts[2])) : Optional.empty();
    }
}
