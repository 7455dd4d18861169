package dev.nachlauf.api;

import java.util.List;

/**
 * What the check of a job found.
 *
 * @param sound whether there is no error
 * @param checkedAgainst what could be looked at, for people
 */
public record JobCheck(boolean sound, List<ProblemView> problems, List<String> checkedAgainst) {}
