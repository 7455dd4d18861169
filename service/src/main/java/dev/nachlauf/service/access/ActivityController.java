package dev.nachlauf.service.access;

import dev.nachlauf.api.ActivityView;
import dev.nachlauf.api.Page;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/activity")
class ActivityController {
    private final Activities activities;

    ActivityController(Activities activities) {
        this.activities = activities;
    }

    /** Who did what, the newest first. */
    @GetMapping
    @Needs(Role.ADMINISTER)
    Page<ActivityView> list(
            @RequestParam(required = false) @Nullable String cursor, @RequestParam(defaultValue = "50") int limit) {
        return activities.list(cursor, limit);
    }
}
