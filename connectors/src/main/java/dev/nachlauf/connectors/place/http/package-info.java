/**
 * Files on a web server as a place (RFC 9110). Start at {@link dev.nachlauf.connectors.place.http.HttpType}. There is no
 * list to choose from, so a job names a file exactly. A file that was fetched before is asked for with its entity tag or
 * date and sent again only if it has changed. Redirects are followed within the same host only.
 */
@NullMarked
package dev.nachlauf.connectors.place.http;

import org.jspecify.annotations.NullMarked;
