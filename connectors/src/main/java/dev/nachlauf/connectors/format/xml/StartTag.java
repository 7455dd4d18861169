package dev.nachlauf.connectors.format.xml;

import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The tag that opens an element, as it is spelled.
 *
 * @param text well-formed, from {@code <} to {@code >}
 */
record StartTag(String text) {
    private static final Pattern TAG = Pattern.compile("<(?:[^>\"']++|\"[^\"]*\"|'[^']*')*+>");
    private static final Pattern NAME = Pattern.compile("<([^\\s/>]+)");
    private static final Pattern ATTRIBUTE = Pattern.compile("\\G\\s+([^\\s=]+)\\s*=\\s*(\"[^\"]*\"|'[^']*')");
    private static final String EMPTY = "/>";

    /** The tag that opens an element. */
    static StartTag of(String element) {
        Matcher tag = TAG.matcher(element);
        if (!tag.lookingAt()) {
            throw new IllegalStateException("no tag stands where one was met");
        }
        return new StartTag(tag.group());
    }

    /** The element's name, with its prefix. */
    String name() {
        Matcher name = NAME.matcher(text);
        if (!name.lookingAt()) {
            throw new IllegalStateException("no tag stands where one was met");
        }
        return name.group(1);
    }

    /** The prefix with its colon; empty without one. */
    String prefix() {
        return name().substring(0, name().length() - local(name()).length());
    }

    /** A name without its prefix. */
    static String local(String name) {
        return name.substring(name.indexOf(':') + 1);
    }

    boolean isEmpty() {
        return text.endsWith(EMPTY);
    }

    /** This tag for an element that isn't empty. */
    StartTag opened() {
        return isEmpty()
                ? new StartTag(text.substring(0, text.length() - EMPTY.length()).stripTrailing() + ">")
                : this;
    }

    /** This tag with a value of an attribute, in its place or behind all others. */
    StartTag with(String attribute, String quoted) {
        Matcher found = ATTRIBUTE.matcher(text).region(name().length() + 1, text.length());
        int end = name().length() + 1;
        while (found.find()) {
            if (local(found.group(1)).equals(attribute)) {
                return new StartTag(
                        text.substring(0, found.start(2)) + '"' + quoted + '"' + text.substring(found.end(2)));
            }
            end = found.end();
        }
        return new StartTag(text.substring(0, end) + " " + attribute + "=\"" + quoted + '"' + text.substring(end));
    }
}
