/**
 * The service: records in PostgreSQL, the network interface, and the runs. Start at {@link
 * dev.nachlauf.service.NachlaufService}. A package per feature holds its controller, its use cases, its entities and its
 * views together and shows one facade; a later feature may know an earlier one's facade, in the order connection, file,
 * job, run, ledger, reject. What computes is in the core; the service keeps, schedules and answers.
 */
@NullMarked
package dev.nachlauf.service;

import org.jspecify.annotations.NullMarked;
