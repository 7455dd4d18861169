package dev.nachlauf.service.notice;

import dev.nachlauf.service.store.Json;
import jakarta.persistence.Convert;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** What somebody is told of a run. After it is made, {@link Notices} changes it by conditional updates. */
@Entity
@Table(name = "notice")
class NoticeEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    long id;

    long runId;

    /** By which receivers know what they have already. */
    UUID mark = UUID.randomUUID();

    String connection;

    @Convert(converter = Json.Words.class)
    List<String> receivers;

    @Convert(converter = Json.Words.class)
    List<String> occasions;

    String state = "wanted";
    String note = "";
    int tries;

    /** When it is tried next; of no meaning where it is sent or given up. */
    Instant due;

    Instant madeAt;

    @Nullable
    Instant toldAt;
}
