/**
 * XML 1.0 to rows. Start at {@link dev.nachlauf.connectors.format.xml.XmlFormat}; {@code XmlRecords} walks the elements
 * and stops at every record. {@link dev.nachlauf.connectors.format.xml.SafeXml} is the one place where the parser is made:
 * no document types, no external entities, bounded depth, text and attributes. Names are taken without their namespace;
 * attributes and elements count alike. {@code XmlEdits} gives a file on with edits: it splices values into the text ({@code
 * ElementSplice}), so that all else stays as it is spelled.
 */
@NullMarked
package dev.nachlauf.connectors.format.xml;

import org.jspecify.annotations.NullMarked;
