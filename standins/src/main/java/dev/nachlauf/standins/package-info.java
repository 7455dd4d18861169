/**
 * Simulated systems that ship with the demo and serve the tests: nothing that ships depends on them. {@link
 * dev.nachlauf.standins.FileDrop} is a folder that is reached by SFTP and by FTP, plain or over TLS, the way partners
 * deliver files; {@link dev.nachlauf.standins.MailHost} is a mail server that keeps what it gets. Everything listens on
 * loopback, on ports that the system chooses.
 */
@NullMarked
package dev.nachlauf.standins;

import org.jspecify.annotations.NullMarked;
