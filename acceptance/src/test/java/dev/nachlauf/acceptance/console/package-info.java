/**
 * The console as people see it: served by the real service, with the demo's runs, in a headless browser. Every page is
 * looked at for accessibility, light and dark, and for what its own content security policy refuses. A new page gets a
 * test of what it shows, and a line in the list of all pages.
 */
package dev.nachlauf.acceptance.console;
