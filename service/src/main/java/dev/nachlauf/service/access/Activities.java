package dev.nachlauf.service.access;

import dev.nachlauf.api.ActivityView;
import dev.nachlauf.api.Page;
import dev.nachlauf.service.web.Cursors;
import java.time.Clock;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Who did what: every change, stop, release and discard, and what somebody was refused. */
@Service
@Transactional
class Activities {
    private final ActivityRepository repository;
    private final Clock clock;

    Activities(ActivityRepository repository, Clock clock) {
        this.repository = repository;
        this.clock = clock;
    }

    void note(String who, String deed, String about, int status) {
        ActivityEntity entity = new ActivityEntity();
        entity.at = clock.instant();
        entity.who = who;
        entity.deed = deed;
        entity.about = about;
        entity.status = status;
        repository.save(entity);
    }

    /** The newest first. */
    @Transactional(readOnly = true)
    Page<ActivityView> list(@Nullable String cursor, int asked) {
        int limit = Cursors.limit(asked);
        List<ActivityEntity> found =
                repository.findByIdLessThanOrderByIdDesc(Cursors.one(cursor, Long.MAX_VALUE), Limit.of(limit + 1));
        List<ActivityView> items = found.stream()
                .limit(limit)
                .map(one -> new ActivityView(one.id, one.at, one.who, one.deed, one.about, one.status))
                .toList();
        return new Page<>(
                items, found.size() > limit ? String.valueOf(items.getLast().id()) : null);
    }
}
