/**
 * The product as its users meet it: the real service as a process on loopback, with a real PostgreSQL, called through
 * the real client, the network interface and a real browser. {@code Installation} sets one up.
 */
package dev.nachlauf.acceptance;
