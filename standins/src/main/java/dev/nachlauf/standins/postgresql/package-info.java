/**
 * A real PostgreSQL cluster that tests have for themselves: {@link dev.nachlauf.standins.postgresql.PrivateCluster}. It
 * listens on a free loopback port, can be killed as by a power cut and started again, and is gone when the tests are
 * done. It knows nothing of Nachlauf.
 */
@NullMarked
package dev.nachlauf.standins.postgresql;

import org.jspecify.annotations.NullMarked;
