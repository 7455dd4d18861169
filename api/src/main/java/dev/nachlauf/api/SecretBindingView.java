package dev.nachlauf.api;

import java.time.Instant;

/**
 * A secret that was used, and the only host that gets it.
 *
 * @param reference as connections write it, such as {@code env:NACHLAUF_SECRET_REGISTER}
 * @param connection the connection that used it first
 */
public record SecretBindingView(String reference, String host, String connection, Instant boundAt) {}
