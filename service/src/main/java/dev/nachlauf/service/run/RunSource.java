package dev.nachlauf.service.run;

import dev.nachlauf.service.store.Json;
import jakarta.persistence.Column;
import jakarta.persistence.Convert;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** One file that a run reads or looks records up in, in the order in which it reads them. */
@Entity
@Table(name = "run_source")
class RunSource {
    @EmbeddedId
    Id id;

    String hash;
    String name;
    long size;
    String member;
    String format;

    @Convert(converter = Json.WordMap.class)
    Map<String, String> options;

    /** The lookup's name for the file, where records are looked up in it; null where its rows are read. */
    @Nullable
    String lookup;

    @Embeddable
    record Id(
            @Column(name = "run_id") long runId,
            @Column(name = "position") short position) {}
}
