package dev.nachlauf.service.store;

import dev.nachlauf.core.drift.ColumnTraits;
import jakarta.persistence.AttributeConverter;
import jakarta.persistence.Converter;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The names under which the traits of a column are kept. */
public record StoredTraits(
        String name, long filled, long blank, @Nullable Double typical, long dates, long lateDays) {
    private static StoredTraits of(ColumnTraits column) {
        return new StoredTraits(
                column.name(), column.filled(), column.blank(), column.typical(), column.dates(), column.lateDays());
    }

    private ColumnTraits traits() {
        return new ColumnTraits(name, filled, blank, typical, dates, lateDays);
    }

    /** Columns as text. */
    public static String write(List<ColumnTraits> columns) {
        return Json.write(columns.stream().map(StoredTraits::of).toList());
    }

    /** As JSON. */
    @Converter
    public static final class Text implements AttributeConverter<List<ColumnTraits>, String> {
        @Override
        public String convertToDatabaseColumn(List<ColumnTraits> columns) {
            return write(columns);
        }

        @Override
        public List<ColumnTraits> convertToEntityAttribute(String text) {
            return Arrays.stream(Json.read(text, StoredTraits[].class))
                    .map(StoredTraits::traits)
                    .toList();
        }
    }
}
