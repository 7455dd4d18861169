package dev.nachlauf.core.problem;

/**
 * One finding.
 *
 * @param sentence what was found and what was expected
 * @param remedy what to do about it; empty when the sentence says all
 * @param subject what exactly it is about, for machines: such as the crosswalk, scope and value that lack a translation;
 *     empty where code and place say all
 */
public record Problem(ProblemCode code, Place place, String sentence, String remedy, String subject) {
    public Problem(ProblemCode code, Place place, String sentence, String remedy) {
        this(code, place, sentence, remedy, "");
    }

    /** The same finding about a subject. */
    public Problem about(String what) {
        return new Problem(code, place, sentence, remedy, what);
    }

    /** A finding at a place. */
    public static Problem at(Place place, ProblemCode code, String sentence, String remedy) {
        return new Problem(code, place, sentence, remedy);
    }

    /** A finding that concerns the whole. */
    public static Problem of(ProblemCode code, String sentence, String remedy) {
        return new Problem(code, Place.NOWHERE, sentence, remedy);
    }

    /** A finding about a field of a row. */
    public static Problem inField(ProblemCode code, String field, Object value, String sentence, String remedy) {
        return new Problem(code, new Place.InField(field, String.valueOf(value)), sentence, remedy);
    }

    /** This finding about a field of a row, with the place of the field's cell; any other as it is. */
    public Problem withCell(String at) {
        return place instanceof Place.InField field && field.at() == null
                ? new Problem(code, new Place.InField(field.field(), field.value(), at), sentence, remedy, subject)
                : this;
    }

    /** A finding about a field of a row where there is no value to show. */
    public static Problem inField(ProblemCode code, String field, String sentence, String remedy) {
        return new Problem(code, new Place.InField(field, null), sentence, remedy);
    }
}
