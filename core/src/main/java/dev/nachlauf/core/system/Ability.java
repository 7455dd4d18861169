package dev.nachlauf.core.system;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/** What a system can do, for those who choose one. */
public enum Ability {
    /** It holds files that are fetched. */
    FILES(HoldsFiles.class),
    /** It holds records that are read. */
    RECORDS(ReadsRecords.class),
    /** It can be written to. */
    WRITING(Writes.class),
    /** It tells people what has happened. */
    TELLING(TellsPeople.class);

    private final Class<? extends OpenSystem> shown;

    Ability(Class<? extends OpenSystem> shown) {
        this.shown = shown;
    }

    /** The word for it, such as {@code files}. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** What connections of a type can do. */
    public static List<Ability> of(SystemType type) {
        return Arrays.stream(values())
                .filter(ability -> ability.shown.isAssignableFrom(type.opens()))
                .toList();
    }
}
