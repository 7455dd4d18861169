package dev.nachlauf.service.file;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** A kept file. */
@Entity
@Table(name = "stored_file")
class StoredFile {
    @Id
    String hash;

    long size;
    Instant storedAt;
    Instant usedAt;

    /** When its bytes were removed; null while it is kept. */
    @Nullable
    Instant removedAt;
}
