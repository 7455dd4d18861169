/**
 * What JSON and XML have in common once they are taken apart: records whose values have dotted names, with the fields of
 * the records around them carried down. Start at {@link dev.nachlauf.connectors.format.nested.NestedReader}, which learns
 * the fields from a bounded sample and then streams; {@link
 * dev.nachlauf.connectors.format.nested.RecordSource} is what a format implements.
 */
@NullMarked
package dev.nachlauf.connectors.format.nested;

import org.jspecify.annotations.NullMarked;
