/**
 * Certificates that a connection names itself. Hosts inside of an organisation are often signed by nobody whom the service
 * knows; a connection can then say which certificate is theirs, by its SHA-256, and trusts that one only. Places and
 * messages share it.
 */
@NullMarked
package dev.nachlauf.connectors.certificate;

import org.jspecify.annotations.NullMarked;
