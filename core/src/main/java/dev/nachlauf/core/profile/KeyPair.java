package dev.nachlauf.core.profile;

import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.source.Sample;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import java.util.Locale;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * A column that stands for a field of the target.
 *
 * @param column its position in the source
 * @param capitals whether its values are compared in capitals, without outer spaces
 * @param found how many values of the sample the target holds
 * @param named whether column and field have the same name
 */
record KeyPair(int column, FieldDescription field, boolean capitals, long found, boolean named) {
    UnaryOperator<String> change() {
        return capitals ? text -> text.strip().toUpperCase(Locale.ROOT) : text -> text;
    }

    /** A text as a value of the target's field; null where it is none. */
    @Nullable
    Object value(Sample sample, String text) {
        SourceColumn read = sample.columns().get(column);
        boolean sameKind = read.reading().kind() == field.kind();
        TextParser parser = sameKind ? read.reading().parser() : TextParser.of(field.kind(), null, null);
        try {
            return Reading.read(text, field.kind(), parser);
        } catch (ValueProblem e) {
            return null;
        }
    }
}
