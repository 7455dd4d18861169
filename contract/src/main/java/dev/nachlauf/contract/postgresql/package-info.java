/**
 * A private PostgreSQL cluster for tests, on a free loopback port: {@link
 * dev.nachlauf.contract.postgresql.PrivateCluster}. It can be killed and started again.
 */
@NullMarked
package dev.nachlauf.contract.postgresql;

import org.jspecify.annotations.NullMarked;
