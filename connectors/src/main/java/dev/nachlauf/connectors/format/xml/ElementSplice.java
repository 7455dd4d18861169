package dev.nachlauf.connectors.format.xml;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.HashSet;
import java.util.Set;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;

/** Changes values in the text of one element, and leaves all else in its place. */
final class ElementSplice {
    private final String file;
    private final String element;
    private final OpenCells cells;
    private final StringBuilder out = new StringBuilder();
    private int copied;

    ElementSplice(String file, String element, OpenCells cells) {
        this.file = file;
        this.element = element;
        this.cells = cells;
    }

    /** The changed text. */
    String text() {
        try {
            XMLStreamReader2 reader = SafeXml.fragment(element);
            SafeXml.next(reader, file);
            element(reader, "");
            reader.close();
        } catch (XMLStreamException e) {
            throw SafeXml.malformed(file, e, 0);
        }
        return out.append(element, copied, element.length()).toString();
    }

    private void element(XMLStreamReader2 reader, String address) throws XMLStreamException {
        int opened = end(reader);
        StartTag tag = new StartTag(element.substring(start(reader), opened));
        StartTag written = tag;
        for (String attribute : cells.attributes(address)) {
            Object value = cells.values()[cells.take(address + "/@" + attribute)];
            written = written.with(attribute, XmlText.quoted(value));
        }
        int own = cells.take(address);
        boolean filled = own >= 0 || !cells.children(address).isEmpty();
        if (filled) {
            written = written.opened();
        }
        if (!written.equals(tag)) {
            replace(opened - tag.text().length(), opened, written.text());
        }
        content(reader, address, own, tag, opened);
        if (filled && tag.isEmpty()) {
            out.append("</").append(tag.name()).append('>');
        }
    }

    private void content(XMLStreamReader2 reader, String address, int own, StartTag tag, int opened)
            throws XMLStreamException {
        Set<String> seen = new HashSet<>();
        int last = opened;
        String lead = "";
        int event = SafeXml.next(reader, file);
        while (event != XMLStreamConstants.END_ELEMENT) {
            if (event == XMLStreamConstants.START_ELEMENT) {
                String between = element.substring(last, start(reader));
                lead = seen.isEmpty() && between.isBlank() ? between : lead;
                String name = StartTag.local(reader.getLocalName());
                if (seen.add(name)) {
                    element(reader, address + "/" + name);
                } else {
                    reader.skipElement();
                }
                last = end(reader);
            }
            event = SafeXml.next(reader, file);
        }
        if (own >= 0) {
            if (!seen.isEmpty()) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.OUTPUT_UNFIT,
                        tag.name() + " in " + file + " holds elements, so its text can't be changed.",
                        "Correct the file there, or leave the field out of the map."));
            }
            replace(opened, Math.max(opened, start(reader)), XmlText.escaped(cells.values()[own]));
        }
        String children = new ElementLayout(tag.name(), tag.prefix(), lead, "").children(address, lead, cells);
        if (!children.isEmpty()) {
            replace(last, last, children);
        }
    }

    private void replace(int from, int to, String by) {
        out.append(element, copied, from).append(by);
        copied = to;
    }

    private static int start(XMLStreamReader2 reader) {
        return (int) reader.getLocationInfo().getStartingCharOffset();
    }

    private static int end(XMLStreamReader2 reader) throws XMLStreamException {
        return (int) reader.getLocationInfo().getEndingCharOffset();
    }
}
