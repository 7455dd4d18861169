/**
 * What goes over the network: the views that the service answers with and the client and console read, and the bodies
 * that they send. The OpenAPI document is built from these records, so a change here changes the public interface.
 * Times are ISO 8601 in UTC; optional values are null. Nothing here knows the engine, a framework or a database.
 */
@NullMarked
package dev.nachlauf.api;

import org.jspecify.annotations.NullMarked;
