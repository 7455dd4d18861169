package dev.nachlauf.service.shared;

import dev.nachlauf.api.CrosswalkView;
import dev.nachlauf.api.TranslationView;
import dev.nachlauf.core.crosswalk.Crosswalk;
import dev.nachlauf.core.crosswalk.CrosswalkFile;
import dev.nachlauf.core.crosswalk.CrosswalkFile.Addition;
import dev.nachlauf.core.crosswalk.Matcher;
import dev.nachlauf.core.document.Document;
import dev.nachlauf.core.formula.CrosswalkUse;
import dev.nachlauf.core.formula.Translation;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.service.shared.SharedDocuments.Kind;
import dev.nachlauf.service.shared.SharedDocuments.Version;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps crosswalks and compiles them. */
@Service
public class Crosswalks {
    private static final int MOST_COMPILED = 100;

    private final SharedDocuments documents;
    private final Map<String, Matcher> compiled = new LinkedHashMap<>(16, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Matcher> eldest) {
            return size() > MOST_COMPILED;
        }
    };

    Crosswalks(SharedDocuments documents) {
        this.documents = documents;
    }

    /** All crosswalks by name. */
    @Transactional(readOnly = true)
    public List<CrosswalkView> list() {
        return documents.list(Kind.CROSSWALK).stream().map(Crosswalks::view).toList();
    }

    /** A crosswalk in its newest version. */
    @Transactional(readOnly = true)
    public CrosswalkView show(String name) {
        return view(documents.newest(Kind.CROSSWALK, name));
    }

    /** Keeps a document; refuses one with errors. */
    public CrosswalkView save(String fileName, String document, String by) {
        List<Problem> problems = new ArrayList<>();
        Crosswalk crosswalk = CrosswalkFile.read(new SourceText(fileName, document), problems)
                .orElseThrow(() -> new CannotGoOn(problems));
        return view(documents.save(Kind.CROSSWALK, crosswalk.name(), crosswalk.title(), document, by));
    }

    /** Adds exact entries to a crosswalk; of two hands that add at once both are kept. */
    @Transactional
    public CrosswalkView add(String name, List<Addition> additions, String by) {
        documents.hold(Kind.CROSSWALK, name);
        Version newest = documents.newest(Kind.CROSSWALK, name);
        return save(name, CrosswalkFile.with(newest.document(), additions), by);
    }

    /** What a value becomes, and which entry says so; empty where there is no translation. */
    public Optional<TranslationView> translate(String name, String value, @Nullable String scope) {
        return translate(documents.newest(Kind.CROSSWALK, name), value, scope);
    }

    /** What a value became with the versions of a run, and which entry said so. */
    public Optional<TranslationView> translate(Pins pins, String name, String value, @Nullable String scope) {
        return translate(inForce(pins, documents.newest(Kind.CROSSWALK, name)), value, scope);
    }

    private Optional<TranslationView> translate(Version version, String value, @Nullable String scope) {
        return matcher(version)
                .match(value, scope)
                .map(match -> new TranslationView(
                        version.name(),
                        version.number(),
                        value,
                        scope,
                        match.translation(),
                        match.entry().from().word(),
                        match.entry().from().text(),
                        match.entry().scope(),
                        match.entry().place() instanceof Place.InText text
                                ? text.position().line()
                                : null));
    }

    /** What the formulas of a document translate, and by which crosswalk. */
    public static List<CrosswalkUse> uses(String document) {
        return Document.values(new SourceText("document", document)).stream()
                .flatMap(value -> CrosswalkUse.in(value).stream())
                .toList();
    }

    /** The crosswalks that the formulas of a document name. */
    public static Set<String> named(String document) {
        return uses(document).stream().map(CrosswalkUse::crosswalk).collect(Collectors.toCollection(TreeSet::new));
    }

    /** All crosswalks, compiled when they are first used. */
    public Map<String, Translation> translations(Pins pins) {
        Map<String, Translation> translations = new HashMap<>();
        for (Version newest : documents.list(Kind.CROSSWALK)) {
            translations.put(newest.name(), new WhenUsed(inForce(pins, newest)));
        }
        return translations;
    }

    private Version inForce(Pins pins, Version newest) {
        return pins.version(Kind.CROSSWALK, newest.name()).stream()
                .boxed()
                .flatMap(number -> documents.find(Kind.CROSSWALK, newest.name(), number).stream())
                .findFirst()
                .orElse(newest);
    }

    /** Compiles when the first value comes. */
    private final class WhenUsed implements Translation {
        private final Version version;
        private @Nullable Matcher matcher;

        WhenUsed(Version version) {
            this.version = version;
        }

        @Override
        public @Nullable String translate(@Nullable String value, @Nullable String scope) {
            Matcher known = matcher;
            if (known == null) {
                known = matcher(version);
                matcher = known;
            }
            return known.translate(value, scope);
        }
    }

    /** The newest versions of what a document names, to be kept with a run. */
    public Map<String, String> pins(String document) {
        Map<String, String> pins = new TreeMap<>();
        for (String name : named(document)) {
            documents
                    .find(Kind.CROSSWALK, name)
                    .ifPresent(version -> pins.put(Pins.key(Kind.CROSSWALK, name), String.valueOf(version.number())));
        }
        return pins;
    }

    private synchronized Matcher matcher(Version version) {
        return compiled.computeIfAbsent(version.name() + " " + version.number(), key -> {
            List<Problem> problems = new ArrayList<>();
            Crosswalk crosswalk = CrosswalkFile.read(new SourceText(version.name(), version.document()), problems)
                    .orElseThrow(() -> new CannotGoOn(problems));
            return Matcher.compile(crosswalk, problems);
        });
    }

    private static CrosswalkView view(Version version) {
        int entries = CrosswalkFile.read(new SourceText(version.name(), version.document()), new ArrayList<>())
                .map(crosswalk -> crosswalk.entries().size())
                .orElse(0);
        return new CrosswalkView(
                version.name(),
                version.title(),
                version.number(),
                entries,
                version.document(),
                version.savedAt(),
                version.savedBy());
    }
}
