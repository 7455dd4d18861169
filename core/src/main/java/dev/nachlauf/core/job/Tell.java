package dev.nachlauf.core.job;

import java.util.List;
import java.util.Set;

/**
 * Whom a job tells what has become of a run.
 *
 * @param by the connection over which it is told
 * @param to the addresses of those who are told; empty where the connection knows them
 */
public record Tell(Placed<String> by, List<Placed<String>> to, Set<Occasion> when) {
    public Tell {
        to = List.copyOf(to);
        when = Set.copyOf(when);
    }
}
