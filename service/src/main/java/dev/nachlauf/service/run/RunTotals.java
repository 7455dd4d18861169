package dev.nachlauf.service.run;

import dev.nachlauf.core.load.Counts;
import dev.nachlauf.service.store.Json;
import dev.nachlauf.service.store.StoredCounts;
import jakarta.persistence.AttributeConverter;
import jakarta.persistence.Converter;
import org.jspecify.annotations.Nullable;

/**
 * What lists show of a run's rows.
 *
 * @param counts the outcomes of reading and of the main write
 * @param elsewhere rows that only another write rejected
 * @param inDoubt rows of batches of which nobody knows yet whether they were written; they are in no other count
 */
public record RunTotals(Counts counts, long elsewhere, long inDoubt) {
    /** Of a run that has no batch yet. */
    static final RunTotals NONE = new RunTotals(Counts.NONE, 0, 0);

    /** As JSON. */
    @Converter
    static final class Text implements AttributeConverter<RunTotals, String> {
        @Override
        public String convertToDatabaseColumn(RunTotals totals) {
            return of(totals);
        }

        @Override
        public @Nullable RunTotals convertToEntityAttribute(@Nullable String text) {
            return text == null ? null : totals(text);
        }

        private record Stored(StoredCounts counts, long elsewhere, long inDoubt) {}

        static String of(RunTotals totals) {
            return Json.write(new Stored(StoredCounts.of(totals.counts), totals.elsewhere, totals.inDoubt));
        }

        static RunTotals totals(String text) {
            Stored stored = Json.read(text, Stored.class);
            return new RunTotals(stored.counts.counts(), stored.elsewhere, stored.inDoubt);
        }
    }
}
