package dev.nachlauf.service.access;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/**
 * The role that a call of the network interface needs. Calls that only get something need {@link Role#LOOK} without
 * saying so; every other one must say what it needs.
 */
@Target(ElementType.METHOD)
@Retention(RetentionPolicy.RUNTIME)
public @interface Needs {
    /** The least role. */
    Role value();

    /**
     * What the call does, for the record of who did what, such as {@code stop run}; the parts of its address follow. Empty
     * where it changes nothing.
     */
    String deed() default "";
}
