package dev.nachlauf.service.crosswalk;

import dev.nachlauf.api.CrosswalkEntries;
import dev.nachlauf.api.CrosswalkView;
import dev.nachlauf.api.GapView;
import dev.nachlauf.api.Page;
import dev.nachlauf.api.ProposalView;
import dev.nachlauf.api.SharedChange;
import dev.nachlauf.api.SourceRequest;
import dev.nachlauf.api.TranslationView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.access.Caller;
import dev.nachlauf.service.access.Deed;
import dev.nachlauf.service.access.Needs;
import dev.nachlauf.service.access.Role;
import dev.nachlauf.service.look.Looks;
import dev.nachlauf.service.shared.Crosswalks;
import jakarta.servlet.http.HttpServletRequest;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1")
class CrosswalkController {
    private final Crosswalks crosswalks;
    private final SharedChanges changes;
    private final Gaps gaps;
    private final HealedRejects healed;
    private final Proposals proposals;
    private final Looks looks;

    CrosswalkController(
            Crosswalks crosswalks,
            SharedChanges changes,
            Gaps gaps,
            HealedRejects healed,
            Proposals proposals,
            Looks looks) {
        this.proposals = proposals;
        this.healed = healed;
        this.looks = looks;
        this.crosswalks = crosswalks;
        this.changes = changes;
        this.gaps = gaps;
    }

    /**
     * What equal corrections of rejected rows teach: entries of crosswalks and steps of jobs that would make them from now
     * on. A person accepts one by adding it.
     */
    @GetMapping("/rejects/proposals")
    Page<ProposalView> proposals() {
        return new Page<>(proposals.all(), null);
    }

    /** All crosswalks by name. */
    @GetMapping("/crosswalks")
    Page<CrosswalkView> list() {
        return new Page<>(crosswalks.list(), null);
    }

    /** Keeps a crosswalk's newest version. The answer names the open rejects that it heals. */
    @PostMapping(path = "/crosswalks", consumes = "application/yaml")
    @Needs(value = Role.BUILD, deed = "save crosswalk")
    SharedChange save(
            @RequestParam(defaultValue = "crosswalk.yaml") String file,
            @RequestBody String document,
            HttpServletRequest request) {
        return touched(changes.save(file, document, Caller.of(request)), request);
    }

    /** One crosswalk in its newest version. */
    @GetMapping("/crosswalks/{name}")
    CrosswalkView show(@PathVariable String name) {
        return crosswalks.show(name);
    }

    /** The open rejects of a run, by id, that lacked only what the crosswalks have now. */
    @GetMapping("/crosswalks/{name}/healed")
    Page<Long> healed(@PathVariable String name, @RequestParam long run) {
        return new Page<>(healed.of(crosswalks.show(name).name(), run), null);
    }

    /** What a value becomes, and which entry says so. */
    @GetMapping("/crosswalks/{name}/translation")
    TranslationView translation(
            @PathVariable String name,
            @RequestParam String value,
            @RequestParam(required = false) @Nullable String scope) {
        return crosswalks
                .translate(name, value, scope)
                .orElseThrow(() -> new CannotGoOn(Problem.of(
                        ProblemCode.NO_TRANSLATION,
                        "The crosswalk " + name + " has no translation of '" + value + "'.",
                        "Add it with crosswalk add.")));
    }

    /** Adds entries to a crosswalk. The answer names the open rejects that they heal. */
    @PostMapping("/crosswalks/{name}/entries")
    @Needs(value = Role.BUILD, deed = "add to crosswalk")
    SharedChange add(@PathVariable String name, @RequestBody CrosswalkEntries entries, HttpServletRequest request) {
        return touched(changes.add(name, entries, Caller.of(request)), request);
    }

    /** Keeps a table of two or three columns as the crosswalk's newest version. */
    @PostMapping("/crosswalks/{name}/table")
    @Needs(value = Role.BUILD, deed = "save crosswalk table")
    SharedChange table(@PathVariable String name, @RequestBody SourceRequest table, HttpServletRequest request) {
        String document = looks.whole(request, "table of a crosswalk", () -> changes.document(name, table));
        return touched(changes.save(name, document, Caller.of(request)), request);
    }

    private SharedChange touched(CrosswalkView saved, HttpServletRequest request) {
        Deed.about(request, saved.name() + " " + saved.version());
        return looks.whole(request, "what a crosswalk touches", () -> changes.touched(saved));
    }

    /** Values of a source's field that the crosswalk does not translate. */
    @PostMapping("/crosswalks/{name}/gaps")
    @Needs(Role.LOOK)
    Page<GapView> gapsOfField(
            @PathVariable String name,
            @RequestParam String field,
            @RequestParam(required = false) @Nullable String scopeField,
            @RequestBody SourceRequest source,
            HttpServletRequest http) {
        return looks.result(
                http,
                "gaps",
                source.connection(),
                () -> new Page<>(gaps.ofField(name, source, field, scopeField), null));
    }

    /** Values of a source's field that the crosswalks do not translate by which saved jobs translate such a field. */
    @PostMapping("/crosswalks/gaps")
    @Needs(Role.LOOK)
    Page<GapView> gapsOfTranslatedField(
            @RequestParam String field,
            @RequestParam(required = false) @Nullable String scopeField,
            @RequestBody SourceRequest source,
            HttpServletRequest http) {
        return looks.result(
                http,
                "gaps",
                source.connection(),
                () -> new Page<>(gaps.ofField(null, source, field, scopeField), null));
    }

    /** Values that a job meets without a translation in its source as it is now, or in a file that is given. */
    @PostMapping("/jobs/{name}/gaps")
    @Needs(Role.LOOK)
    Page<GapView> gapsOfJob(
            @PathVariable String name,
            @RequestParam(required = false) @Nullable String source,
            @RequestParam(required = false) @Nullable String sourceName,
            HttpServletRequest http) {
        return looks.result(http, "gaps", null, () -> new Page<>(gaps.ofJob(name, source, sourceName), null));
    }

    /** Values of a run's rows that no crosswalk translates, by the crosswalks as they are now. */
    @GetMapping("/runs/{id}/gaps")
    Page<GapView> gapsOfRun(@PathVariable long id, HttpServletRequest http) {
        return looks.result(http, "gaps", null, () -> new Page<>(gaps.ofRun(id), null));
    }
}
