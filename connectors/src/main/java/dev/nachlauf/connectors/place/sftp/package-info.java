/**
 * A folder on an SFTP host as a place of files. Start at {@link dev.nachlauf.connectors.place.sftp.SftpType}. The host's
 * key must be the one that the connection states: without it nothing is sent, not even a name. Signs in with a password
 * or a private key, both named by reference.
 */
@NullMarked
package dev.nachlauf.connectors.place.sftp;

import org.jspecify.annotations.NullMarked;
