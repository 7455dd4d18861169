/**
 * A folder on an FTP host as a place of files, plain or over TLS (RFC 959, RFC 4217). Start at {@link
 * dev.nachlauf.connectors.place.ftp.FtpType}. Plain FTP sends the password readably; the connection has to say so itself.
 * Data connections are opened from our side only.
 */
@NullMarked
package dev.nachlauf.connectors.place.ftp;

import org.jspecify.annotations.NullMarked;
