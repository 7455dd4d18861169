package dev.nachlauf.core.system;

import java.util.List;

/** A kind of system that connections can name. Implementations are found by the service loader. */
public interface SystemType {
    /** The word in connection files, such as {@code postgresql}. */
    String type();

    /** One sentence for people. */
    String help();

    /** The settings that a connection of this type takes. */
    List<Setting> settings();

    /**
     * What a connection with these settings leads to; asked before it is opened.
     *
     * @throws dev.nachlauf.core.problem.CannotGoOn where the settings don't say
     */
    Reach reach(Settings settings);

    /** What {@link #open} opens; its interfaces say what connections of this type can do. */
    Class<? extends OpenSystem> opens();

    /**
     * Opens a system. Settings were checked against {@link #settings}; nothing needs to be reached yet.
     *
     * @throws dev.nachlauf.core.problem.CannotGoOn with {@code unreachable}, {@code sign-in-refused} or a setting's
     *     problem
     */
    OpenSystem open(Settings settings);
}
