package dev.nachlauf.service.shared;

import dev.nachlauf.api.PiecesView;
import dev.nachlauf.core.job.PiecesFile;
import dev.nachlauf.core.job.PiecesFile.Definition;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.job.SharedPieces;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.service.shared.SharedDocuments.Kind;
import dev.nachlauf.service.shared.SharedDocuments.Version;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps documents of shared formulas and steps. */
@Service
public class Pieces {
    private final SharedDocuments documents;

    Pieces(SharedDocuments documents) {
        this.documents = documents;
    }

    /** All documents by name. */
    @Transactional(readOnly = true)
    public List<PiecesView> list() {
        return documents.list(Kind.PIECES).stream().map(Pieces::view).toList();
    }

    /** A document in its newest version. */
    @Transactional(readOnly = true)
    public PiecesView show(String name) {
        return view(documents.newest(Kind.PIECES, name));
    }

    /** What a document says; throws where it has errors. */
    public Definition read(String fileName, String document) {
        List<Problem> problems = new ArrayList<>();
        return PiecesFile.read(new SourceText(fileName, document), problems)
                .orElseThrow(() -> new CannotGoOn(problems));
    }

    /** Keeps a document; refuses one with errors. */
    public PiecesView save(String fileName, String document, String by) {
        Definition definition = read(fileName, document);
        return view(documents.save(Kind.PIECES, definition.name(), definition.title(), document, by));
    }

    /** The pieces of some documents; one that is missing is added to {@code problems}. */
    public SharedPieces of(List<Placed<String>> names, Pins pins, List<Problem> problems) {
        SharedPieces all = SharedPieces.NONE;
        for (Placed<String> name : names) {
            Optional<Version> version = pins.version(Kind.PIECES, name.value()).isPresent()
                    ? documents.find(
                            Kind.PIECES,
                            name.value(),
                            pins.version(Kind.PIECES, name.value()).getAsInt())
                    : documents.find(Kind.PIECES, name.value());
            if (version.isEmpty()) {
                List<String> known =
                        documents.list(Kind.PIECES).stream().map(Version::name).toList();
                problems.add(Problem.at(
                        name.place(),
                        ProblemCode.PIECE_UNKNOWN,
                        "There are no pieces " + name.value() + ".",
                        NearestNames.suggestion(name.value(), known, "Save them first.")));
            } else {
                all = all.and(read(name.value(), version.get().document()).pieces());
            }
        }
        return all;
    }

    /** The texts of some documents in their newest versions. */
    public List<String> texts(List<Placed<String>> names) {
        return names.stream()
                .flatMap(name -> documents.find(Kind.PIECES, name.value()).stream())
                .map(Version::document)
                .toList();
    }

    /** The newest versions of some documents, to be kept with a run. */
    public Map<String, String> pins(List<Placed<String>> names) {
        Map<String, String> pins = new TreeMap<>();
        for (Placed<String> name : names) {
            documents
                    .find(Kind.PIECES, name.value())
                    .ifPresent(
                            version -> pins.put(Pins.key(Kind.PIECES, name.value()), String.valueOf(version.number())));
        }
        return pins;
    }

    private static PiecesView view(Version version) {
        Optional<Definition> definition =
                PiecesFile.read(new SourceText(version.name(), version.document()), new ArrayList<>());
        List<String> formulas = definition
                .map(one -> one.pieces().formulas().values().stream()
                        .map(piece -> piece.signature())
                        .sorted()
                        .toList())
                .orElse(List.of());
        List<String> steps = definition
                .map(one -> one.pieces().steps().keySet().stream().sorted().toList())
                .orElse(List.of());
        return new PiecesView(
                version.name(),
                version.title(),
                version.number(),
                formulas,
                steps,
                version.document(),
                version.savedAt(),
                version.savedBy());
    }
}
