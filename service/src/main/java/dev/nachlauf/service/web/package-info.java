/**
 * What all controllers share: findings as RFC 9457 problem details ({@code ProblemAdvice}), findings as views ({@link
 * dev.nachlauf.service.web.ProblemViews}), who calls ({@link dev.nachlauf.service.web.Caller}), cursors, and the guard
 * that lets no page of another origin call a service on loopback. Knows no feature.
 */
@NullMarked
package dev.nachlauf.service.web;

import org.jspecify.annotations.NullMarked;
