package dev.nachlauf.service.crosswalk;

import dev.nachlauf.api.Page;
import dev.nachlauf.api.PiecesView;
import dev.nachlauf.api.SharedChange;
import dev.nachlauf.service.access.Caller;
import dev.nachlauf.service.access.Deed;
import dev.nachlauf.service.access.Needs;
import dev.nachlauf.service.access.Role;
import dev.nachlauf.service.look.Looks;
import dev.nachlauf.service.shared.Pieces;
import jakarta.servlet.http.HttpServletRequest;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/pieces")
class PiecesController {
    private final Pieces pieces;
    private final SharedChanges changes;
    private final Looks looks;

    PiecesController(Pieces pieces, SharedChanges changes, Looks looks) {
        this.looks = looks;
        this.pieces = pieces;
        this.changes = changes;
    }

    /** All documents of shared formulas and steps. */
    @GetMapping
    Page<PiecesView> list() {
        return new Page<>(pieces.list(), null);
    }

    /** Keeps the newest version of a document of shared formulas and steps. */
    @PostMapping(consumes = "application/yaml")
    @Needs(value = Role.BUILD, deed = "save pieces")
    SharedChange save(
            @RequestParam(defaultValue = "pieces.yaml") String file,
            @RequestBody String document,
            HttpServletRequest request) {
        PiecesView saved = changes.savePieces(file, document, Caller.of(request));
        Deed.about(request, saved.name() + " " + saved.version());
        return looks.whole(request, "what pieces touch", () -> changes.touched(saved));
    }

    /** One document of shared formulas and steps. */
    @GetMapping("/{name}")
    PiecesView show(@PathVariable String name) {
        return pieces.show(name);
    }
}
