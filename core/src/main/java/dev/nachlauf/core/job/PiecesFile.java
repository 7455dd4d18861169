package dev.nachlauf.core.job;

import dev.nachlauf.core.document.DocumentKind;
import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Piece;
import dev.nachlauf.core.function.FunctionTable;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/** A document of shared pieces to what it holds. */
public final class PiecesFile {
    private static final Pattern NAME = Pattern.compile("[a-z0-9][a-z0-9-]{0,63}");

    private PiecesFile() {}

    /** A document of pieces. */
    public record Definition(String name, String title, SharedPieces pieces) {}

    /** The document; empty when there were problems, all of which are added to {@code problems}. */
    public static Optional<Definition> read(SourceText source, List<Problem> problems) {
        return DocumentKind.PIECES.read(source, problems, PiecesFile::definition);
    }

    private static Definition definition(Section root, List<Problem> problems) {
        String name = JobFile.name(root, "pieces", NAME, "small letters, digits and hyphens");
        String title = root.text("title").orElse(name);
        Words words = new Words(List.of(), problems);
        Map<String, Piece> formulas = new LinkedHashMap<>();
        root.section("formulas").ifPresent(section -> {
            for (String key : section.keys()) {
                if (!Words.STEP_NAME.matcher(key).matches()
                        || FunctionTable.names().contains(key)) {
                    section.problem(
                            key,
                            ProblemCode.NAME_MALFORMED,
                            "A shared formula can't be named " + key + ".",
                            "Use small letters, digits and _, and not the name of a function.");
                }
                section.section(key)
                        .flatMap(one -> piece(key, one, words))
                        .ifPresent(piece -> formulas.put(key, piece));
            }
            section.done();
        });
        Map<String, List<Step>> steps = new LinkedHashMap<>();
        root.section("steps").ifPresent(section -> {
            for (String key : section.keys()) {
                List<Step> list = new ArrayList<>();
                section.sections(key)
                        .forEach(step -> new StepSection(words).step(step).ifPresent(list::add));
                steps.put(key, List.copyOf(list));
            }
            section.done();
        });
        root.done();
        return new Definition(name, title, new SharedPieces(formulas, steps));
    }

    private static Optional<Piece> piece(String name, Section section, Words words) {
        List<Field> takes = new ArrayList<>();
        section.section("takes").ifPresent(parameters -> {
            for (String parameter : parameters.keys()) {
                parameters.text(parameter).ifPresent(word -> {
                    Optional<Kind> kind = Kind.of(word);
                    if (kind.isEmpty()) {
                        words.add(
                                parameters.placeOfValue(parameter),
                                ProblemCode.VALUE_WRONG_KIND,
                                "There is no kind " + word + ".",
                                "Kinds: " + String.join(", ", Kind.words()) + ".");
                    }
                    takes.add(new Field(parameter, kind.orElse(Kind.TEXT)));
                });
            }
            parameters.done();
        });
        section.require("is");
        Optional<FormulaSource> formula = section.formula("is");
        section.done();
        return formula.map(source -> new Piece(name, takes, source));
    }
}
