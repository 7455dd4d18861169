package dev.nachlauf.service.retention;

import dev.nachlauf.api.KeptView;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/kept")
class KeptController {
    private final KeptThings things;

    KeptController(KeptThings things) {
        this.things = things;
    }

    /** What is kept, how much room it takes, and until when. */
    @GetMapping
    KeptView all() {
        return things.all();
    }
}
