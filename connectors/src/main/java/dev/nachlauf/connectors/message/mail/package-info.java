/**
 * Messages by e-mail: the type of connection, and the sender behind it, which speaks SMTP through Jakarta Mail. Mails are
 * plain text in UTF-8 and say that a machine has written them, so that no absence note answers. What a server refuses
 * for now is told apart from what it refuses for good.
 */
@NullMarked
package dev.nachlauf.connectors.message.mail;

import org.jspecify.annotations.NullMarked;
