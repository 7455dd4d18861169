package dev.nachlauf.service.shared;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;

/** A document's kind and name, to which its versions belong. */
@Entity
@Table(name = "shared_document")
class SharedDocument {
    @Id
    @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "shared_document_seq")
    @SequenceGenerator(name = "shared_document_seq", sequenceName = "shared_document_seq", allocationSize = 1)
    Long id;

    String kind;
    String name;
    int latest;
}
