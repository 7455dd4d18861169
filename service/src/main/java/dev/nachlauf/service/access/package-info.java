/**
 * Who may call, and who did what. A caller holds a token with a role; of its secret only a hash is kept. Browsers hold a
 * session instead, which a token or a link that is good once has opened. {@link dev.nachlauf.service.access.Needs} on a
 * controller's method says which role it needs, and what to note of it. Spring Security runs the filters and writes the
 * headers; which token is whose is decided here. Knows no other feature.
 */
@NullMarked
package dev.nachlauf.service.access;

import org.jspecify.annotations.NullMarked;
