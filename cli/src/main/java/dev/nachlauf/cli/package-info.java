/**
 * The client. Start at {@link dev.nachlauf.cli.Nachlauf}: command → options → output. Every command is a small class
 * that calls the service through {@code ServiceClient} and prints through {@code Output}: tables for people, JSON for
 * scripts. Only {@code job check --offline} computes anything here, with the core. Exit statuses stand in {@code
 * ExitStatus}.
 */
@NullMarked
package dev.nachlauf.cli;

import org.jspecify.annotations.NullMarked;
