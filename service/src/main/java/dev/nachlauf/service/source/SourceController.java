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
    private final SourceLooks looks;
    private final Suggestions suggestions;

    SourceController(SourceLooks looks, Suggestions suggestions) {
        this.looks = looks;
        this.suggestions = suggestions;
    }

    /** Which source field probably belongs to which field of a record type, best first. */
    @PostMapping("/suggestions")
    @Needs(Role.LOOK)
    Page<SuggestionView> suggest(@RequestBody SuggestionRequest request) {
        return new Page<>(suggestions.of(request), null);
    }

    @PostMapping("/sources/preview")
    @Needs(Role.LOOK)
    SourceView preview(@RequestBody SourceRequest request) {
        return looks.preview(request);
    }

    @PostMapping("/sources/profile")
    @Needs(Role.LOOK)
    ProfileView profile(@RequestBody ProfileRequest request) {
        return looks.profile(request);
    }

    @GetMapping("/connections/{name}/files")
    Page<FoundFileView> files(@PathVariable String name, @RequestParam(defaultValue = "*") String pattern) {
        return new Page<>(looks.files(name, pattern), null);
    }

    @PostMapping("/connections/{name}/records/{records}/profile")
    @Needs(Role.LOOK)
    ProfileView records(@PathVariable String name, @PathVariable String records, @RequestBody ProfileRecords request) {
        return looks.profileRecords(name, records, request);
    }
}
