/**
 * The certificate that stand-ins show which speak TLS. Nobody has signed it, so a client trusts it only where its
 * connection names it by its SHA-256. It is made anew whenever a stand-in starts, in a folder of its own, and has a key
 * that nothing else uses.
 */
@NullMarked
package dev.nachlauf.standins.certificate;

import org.jspecify.annotations.NullMarked;
