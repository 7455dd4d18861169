package dev.nachlauf.service.shared;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.service.store.NameLock;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Keeps documents of any kind with their versions. */
@Component
class SharedDocuments {
    private final SharedDocumentRepository documents;
    private final SharedVersionRepository versions;
    private final NameLock lock;
    private final Clock clock;

    SharedDocuments(SharedDocumentRepository documents, SharedVersionRepository versions, NameLock lock, Clock clock) {
        this.documents = documents;
        this.versions = versions;
        this.lock = lock;
        this.clock = clock;
    }

    /** What kinds of documents there are; the word is part of addresses and of what is kept. */
    enum Kind {
        CROSSWALK("crosswalk"),
        PIECES("pieces");

        private final String word;

        Kind(String word) {
            this.word = word;
        }

        String word() {
            return word;
        }
    }

    /** A document in one version. */
    record Version(String name, int number, String title, String document, Instant savedAt, String savedBy) {}

    @Transactional(readOnly = true)
    List<Version> list(Kind kind) {
        return documents.findByKindOrderByName(kind.word).stream()
                .flatMap(document -> version(document, document.latest).stream())
                .toList();
    }

    @Transactional(readOnly = true)
    Version newest(Kind kind, String name) {
        return find(kind, name).orElseThrow(() -> {
            List<String> known = documents.findByKindOrderByName(kind.word).stream()
                    .map(document -> document.name)
                    .toList();
            return new CannotGoOn(Problem.of(
                    ProblemCode.NOT_FOUND,
                    kind == Kind.PIECES
                            ? "There are no pieces " + name + "."
                            : "There is no " + kind.word + " " + name + ".",
                    NearestNames.suggestion(name, known, kind.word + " list shows all.")));
        });
    }

    @Transactional(readOnly = true)
    Optional<Version> find(Kind kind, String name) {
        return documents.findByKindAndName(kind.word, name).flatMap(document -> version(document, document.latest));
    }

    @Transactional(readOnly = true)
    Optional<Version> find(Kind kind, String name, int number) {
        return documents.findByKindAndName(kind.word, name).flatMap(document -> version(document, number));
    }

    /** Keeps a document as the newest version; the same text twice is one version. */
    @Transactional
    Version save(Kind kind, String name, String title, String text, String by) {
        hold(kind, name);
        SharedDocument document = documents.findByKindAndName(kind.word, name).orElseGet(() -> {
            SharedDocument fresh = new SharedDocument();
            fresh.kind = kind.word;
            fresh.name = name;
            return documents.save(fresh);
        });
        Optional<Version> same = version(document, document.latest).filter(version -> version.document.equals(text));
        if (same.isEmpty()) {
            SharedVersion version = new SharedVersion();
            version.documentId = document.id;
            version.number = ++document.latest;
            version.title = title;
            version.document = text;
            version.savedAt = clock.instant();
            version.savedBy = by;
            versions.save(version);
        }
        return version(document, document.latest).orElseThrow();
    }

    /** Lets nobody else change a document until the transaction under way ends. */
    void hold(Kind kind, String name) {
        lock.hold(kind.word, name);
    }

    private Optional<Version> version(SharedDocument document, int number) {
        return versions.findByDocumentIdAndNumber(document.id, number)
                .map(version -> new Version(
                        document.name,
                        version.number,
                        version.title,
                        version.document,
                        version.savedAt,
                        version.savedBy));
    }
}
