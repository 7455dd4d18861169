/**
 * Messages to programs: the type of connection, and the caller behind it, which posts JSON to a web address. Each call is
 * signed as RFC 9421 says, with a digest of the body as RFC 9530 says, so that the receiver knows who has sent it, when,
 * and that nobody has changed it on its way.
 */
@NullMarked
package dev.nachlauf.connectors.message.webhook;

import org.jspecify.annotations.NullMarked;
