/**
 * Kills at chosen moments ({@code CrashTest}), and a machine that tries: random jobs over random rows, killed and hindered at random moments, and then a full comparison of
 * table, ledger, rejects and balance. Start at {@link dev.nachlauf.acceptance.torment.Torment}. A {@code RandomJob} is
 * made of its seed alone, a {@code Stage} holds the real clusters and services, {@code Trouble} is what can happen, and
 * {@code Comparison} finds differences. A new kind of trouble is one more constant.
 */
package dev.nachlauf.acceptance.torment;
