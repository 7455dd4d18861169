package dev.nachlauf.connectors.format.xml;

import com.ctc.wstx.api.WstxInputProperties;
import com.ctc.wstx.stax.WstxInputFactory;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.io.InputStream;
import java.io.Reader;
import java.io.StringReader;
import javax.xml.stream.Location;
import javax.xml.stream.XMLEventReader;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import javax.xml.stream.events.XMLEvent;
import org.codehaus.stax2.XMLStreamReader2;
import org.jspecify.annotations.Nullable;

/** The library's parser within bounds: nothing outside of the file is ever loaded, and nothing in it can fill memory. */
public final class SafeXml {
    /** How deep elements may be nested. */
    public static final int DEEPEST = 200;

    private static final int MOST_ATTRIBUTES = 1_000;
    private static final int LONGEST_ATTRIBUTE = 1_000_000;
    private static final int LONGEST_TEXT = 4_000_000;
    private static final WstxInputFactory FACTORY = factory(true);
    private static final WstxInputFactory FRAGMENTS = factory(false);

    private SafeXml() {}

    private static WstxInputFactory factory(boolean prefixes) {
        WstxInputFactory factory = new WstxInputFactory();
        factory.setProperty(XMLInputFactory.IS_NAMESPACE_AWARE, prefixes);
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        factory.setProperty(XMLInputFactory.IS_COALESCING, true);
        // else errors come where no checked exception can
        factory.setProperty(WstxInputProperties.P_LAZY_PARSING, false);
        factory.setProperty(WstxInputProperties.P_MAX_ELEMENT_DEPTH, DEEPEST);
        factory.setProperty(WstxInputProperties.P_MAX_ATTRIBUTES_PER_ELEMENT, MOST_ATTRIBUTES);
        factory.setProperty(WstxInputProperties.P_MAX_ATTRIBUTE_SIZE, LONGEST_ATTRIBUTE);
        factory.setProperty(WstxInputProperties.P_MAX_TEXT_LENGTH, (long) LONGEST_TEXT);
        factory.setProperty(WstxInputProperties.P_MAX_ENTITY_COUNT, 1);
        factory.setXMLResolver((publicId, systemId, base, namespace) -> {
            throw new XMLStreamException("external entities are not loaded");
        });
        return factory;
    }

    /** A parser over bytes; it doesn't close them. */
    public static XMLStreamReader2 reader(InputStream bytes, @Nullable String encoding) throws XMLStreamException {
        return (XMLStreamReader2)
                (encoding == null
                        ? FACTORY.createXMLStreamReader(bytes)
                        : FACTORY.createXMLStreamReader(bytes, encoding));
    }

    /** A parser over characters, which tells where in them things stand; it doesn't close them. */
    public static XMLStreamReader2 reader(Reader characters) throws XMLStreamException {
        return (XMLStreamReader2) FACTORY.createXMLStreamReader(characters);
    }

    /** The same for an element without what stands around it; its prefixes may be declared there. */
    static XMLStreamReader2 fragment(String element) throws XMLStreamException {
        return (XMLStreamReader2) FRAGMENTS.createXMLStreamReader(new StringReader(element));
    }

    /** A parser that gives its events as objects, which can be kept for a while; it doesn't close the bytes. */
    public static XMLEventReader events(InputStream bytes) throws XMLStreamException {
        return FACTORY.createXMLEventReader(bytes);
    }

    /** The next event; a document type is refused before anything of it is looked at. */
    public static int next(XMLStreamReader reader, String file) throws XMLStreamException {
        int event = reader.next();
        if (event == XMLStreamConstants.DTD) {
            throw documentType(file, reader.getLocation());
        }
        return event;
    }

    /** As {@link #next(XMLStreamReader, String)}. */
    public static XMLEvent next(XMLEventReader reader, String file) throws XMLStreamException {
        XMLEvent event = reader.nextEvent();
        if (event.getEventType() == XMLStreamConstants.DTD) {
            throw documentType(file, event.getLocation());
        }
        return event;
    }

    private static CannotGoOn documentType(String file, Location at) {
        return new CannotGoOn(Problem.at(
                new Place.InFile(file, Math.max(1, at.getLineNumber())),
                ProblemCode.FILE_MALFORMED,
                "The file declares a document type, which is not read for safety.",
                "Ask the sender for the file without its DOCTYPE line."));
    }

    /** The finding about a file that can't be taken apart, in our words: the library's hold pieces of the file. */
    public static CannotGoOn malformed(String file, XMLStreamException e, long records) {
        long line = e.getLocation() == null ? 1 : Math.max(1, e.getLocation().getLineNumber());
        String message = String.valueOf(e.getMessage());
        String reason = message.contains("imit")
                ? "something in it is deeper, longer or more than is allowed"
                : message.contains("EOF")
                        ? "it ends too early"
                        : message.contains("entity")
                                ? "it refers to an entity that isn't declared"
                                : "its markup is broken";
        return new CannotGoOn(Problem.at(
                new Place.InFile(file, line),
                ProblemCode.FILE_MALFORMED,
                "This is not XML that can be read: " + reason + ", after " + records + " records.",
                "Correct the file there, or ask the sender for it again."));
    }
}
