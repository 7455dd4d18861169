/**
 * What all controllers share: findings as RFC 9457 problem details ({@code ProblemAdvice}), findings as views ({@link
 * dev.nachlauf.service.web.ProblemViews}), bounds of requests, cursors, the console's page and its routes, and the guard
 * that lets no page of another origin call the service. Knows no feature.
 */
@NullMarked
package dev.nachlauf.service.web;

import org.jspecify.annotations.NullMarked;
