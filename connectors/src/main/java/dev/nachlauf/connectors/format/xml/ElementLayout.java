package dev.nachlauf.connectors.format.xml;

/**
 * How new elements are spelled.
 *
 * @param name of a record, with its prefix
 * @param prefix of its children
 * @param lead what stands before each child
 * @param end what stands before the end of a record
 */
record ElementLayout(String name, String prefix, String lead, String end) {
    static ElementLayout of(String like, String lead) {
        StartTag tag = StartTag.of(like);
        String inner = like.substring(tag.text().length());
        int first = inner.indexOf('<');
        String blanks = first > 0 && inner.substring(0, first).isBlank() ? inner.substring(0, first) : "";
        return new ElementLayout(tag.name(), tag.prefix(), blanks, blanks.isEmpty() ? "" : lead);
    }

    /** An element with all that is open for it. */
    String element(String tag, String address, OpenCells cells) {
        StartTag start = new StartTag("<" + tag + ">");
        for (String attribute : cells.attributes(address)) {
            Object value = cells.values()[cells.take(address + "/@" + attribute)];
            start = start.with(attribute, XmlText.quoted(value));
        }
        int own = cells.take(address);
        String text = own < 0 ? "" : XmlText.escaped(cells.values()[own]);
        boolean record = address.isEmpty();
        String children = children(address, record ? lead : "", cells);
        return start.text() + text + children + (record && !children.isEmpty() ? end : "") + "</" + tag + ">";
    }

    /** The children that are open for an element. */
    String children(String address, String before, OpenCells cells) {
        StringBuilder children = new StringBuilder();
        for (String child : cells.children(address)) {
            children.append(before).append(element(prefix + child, address + "/" + child, cells));
        }
        return children.toString();
    }
}
