/**
 * Connections: how to reach systems, described once and used by many jobs. {@link
 * dev.nachlauf.service.connection.Connections} is the facade: it keeps documents and opens systems. Secrets stand in no
 * document; {@code EnvironmentSecrets} resolves their references when a system is opened.
 */
@NullMarked
package dev.nachlauf.service.connection;

import org.jspecify.annotations.NullMarked;
