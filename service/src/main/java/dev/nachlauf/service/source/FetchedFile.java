package dev.nachlauf.service.source;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

/** What a place said about a file when it was fetched last, and under which hash it is kept. */
@Entity
@Table(name = "fetched_file")
class FetchedFile {
    @EmbeddedId
    Id id;

    String version;
    String hash;

    @Embeddable
    record Id(
            @Column(name = "connection") String connection,
            @Column(name = "name") String name) {}
}
