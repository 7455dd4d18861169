package dev.nachlauf.service.notice;

import dev.nachlauf.api.NoticeView;
import dev.nachlauf.api.Page;
import dev.nachlauf.service.access.Needs;
import dev.nachlauf.service.access.Role;
import dev.nachlauf.service.run.RunViews;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Who was told of a run, and who couldn't be. */
@RestController
@RequestMapping("/api/v1/runs/{id}/notices")
class NoticeController {
    private final Notices notices;
    private final Telling telling;
    private final RunViews runs;

    NoticeController(Notices notices, Telling telling, RunViews runs) {
        this.notices = notices;
        this.telling = telling;
        this.runs = runs;
    }

    /** What was told of a run, and what is to be told. */
    @GetMapping
    Page<NoticeView> list(@PathVariable long id) {
        runs.show(id);
        return new Page<>(notices.of(id), null);
    }

    /** Tries again what was given up. */
    @PostMapping("/again")
    @Needs(value = Role.RUN, deed = "tell again of run")
    Page<NoticeView> again(@PathVariable long id) {
        runs.show(id);
        notices.again(id);
        telling.wake();
        return list(id);
    }
}
