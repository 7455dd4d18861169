package dev.nachlauf.core.system;

/**
 * A setting that a system type or file format takes.
 *
 * @param secret given by reference only
 */
public record Setting(String name, boolean required, boolean secret, String help) {
    /** A setting that must be given. */
    public static Setting required(String name, String help) {
        return new Setting(name, true, false, help);
    }

    /** A setting that may be left out. */
    public static Setting optional(String name, String help) {
        return new Setting(name, false, false, help);
    }

    /** A secret, given as a reference; it may be left out. */
    public static Setting secret(String name, String help) {
        return new Setting(name, false, true, help);
    }
}
