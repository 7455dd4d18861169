/**
 * A real MariaDB server for tests. {@link dev.nachlauf.contract.mariadb.PrivateMariadb} starts one from the system's
 * binaries with data of its own on a free loopback port, and removes it when the tests are done. It knows nothing of
 * Nachlauf; tests name its address in the settings of a connection.
 */
@NullMarked
package dev.nachlauf.contract.mariadb;

import org.jspecify.annotations.NullMarked;
