package dev.nachlauf.service.source;

import dev.nachlauf.api.FoundFileView;
import dev.nachlauf.api.Page;
import dev.nachlauf.api.ProfileRecords;
import dev.nachlauf.api.ProfileRequest;
import dev.nachlauf.api.ProfileView;
import dev.nachlauf.api.SourceRequest;
import dev.nachlauf.api.SourceView;
import dev.nachlauf.api.SuggestionRequest;
import dev.nachlauf.api.SuggestionView;
import dev.nachlauf.service.access.Needs;
import dev.nachlauf.service.access.Role;
import dev.nachlauf.service.look.Looks;
import jakarta.servlet.http.HttpServletRequest;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1")
class SourceController {
    private final SourceLooks sources;
    private final Suggestions suggestions;
    private final Looks looks;

    SourceController(SourceLooks sources, Suggestions suggestions, Looks looks) {
        this.sources = sources;
        this.suggestions = suggestions;
        this.looks = looks;
    }

    /** Which source field probably belongs to which field of a record type, best first. */
    @PostMapping("/suggestions")
    @Needs(Role.LOOK)
    Page<SuggestionView> suggest(@RequestBody SuggestionRequest request, HttpServletRequest http) {
        return looks.result(http, "suggestions", request.connection(), () -> new Page<>(suggestions.of(request), null));
    }

    /** The first rows of a source, and how it is read, with the evidence. */
    @PostMapping("/sources/preview")
    @Needs(Role.LOOK)
    SourceView preview(@RequestBody SourceRequest request, HttpServletRequest http) {
        return looks.result(http, "preview", request.connection(), () -> sources.preview(request));
    }

    /** Figures for each field over the whole source, and keys. */
    @PostMapping("/sources/profile")
    @Needs(Role.LOOK)
    ProfileView profile(@RequestBody ProfileRequest request, HttpServletRequest http) {
        return looks.result(http, "profile", request.source().connection(), () -> sources.profile(request));
    }

    /** The files of a place that match a pattern. */
    @GetMapping("/connections/{name}/files")
    Page<FoundFileView> files(
            @PathVariable String name, @RequestParam(defaultValue = "*") String pattern, HttpServletRequest http) {
        return looks.result(http, "files", name, () -> new Page<>(sources.files(name, pattern), null));
    }

    /** Figures for each field of a record type, and whether keys are unique. */
    @PostMapping("/connections/{name}/records/{records}/profile")
    @Needs(Role.LOOK)
    ProfileView records(
            @PathVariable String name,
            @PathVariable String records,
            @RequestBody ProfileRecords request,
            HttpServletRequest http) {
        return looks.result(http, "profile", name, () -> sources.profileRecords(name, records, request));
    }
}
