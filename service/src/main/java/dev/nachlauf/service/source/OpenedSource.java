package dev.nachlauf.service.source;

import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.source.Sample;
import dev.nachlauf.core.system.SourceFormat.Lack;
import java.util.List;

/**
 * A source as it was looked at.
 *
 * @param fields of all parts together
 * @param lacks parts that lack some of the fields
 * @param sample the first rows of the whole
 */
public record OpenedSource(List<SourcePart> parts, List<SourceField> fields, List<Lack> lacks, Sample sample) {
    public OpenedSource {
        parts = List.copyOf(parts);
        fields = List.copyOf(fields);
        lacks = List.copyOf(lacks);
    }
}
