package dev.nachlauf.service.environment;

import dev.nachlauf.api.EnvironmentView;
import dev.nachlauf.core.job.EnvironmentDefinition;
import dev.nachlauf.core.job.EnvironmentFile;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.service.store.NameLock;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps environments, and says which one the work on a thread is about. */
@Service
public class Environments {
    private final EnvironmentRepository repository;
    private final EnvironmentUse use;
    private final NameLock lock;
    private final Clock clock;

    Environments(EnvironmentRepository repository, EnvironmentUse use, NameLock lock, Clock clock) {
        this.repository = repository;
        this.use = use;
        this.lock = lock;
        this.clock = clock;
    }

    /** All environments by name. */
    @Transactional(readOnly = true)
    public List<EnvironmentView> list() {
        return repository.findAllByOrderByName().stream()
                .map(Environments::view)
                .toList();
    }

    /** One environment. */
    @Transactional(readOnly = true)
    public EnvironmentView show(String name) {
        return view(entity(name));
    }

    /** Keeps a document, new or changed; refuses one with errors. */
    @Transactional
    public EnvironmentView save(String fileName, String document, String by) {
        EnvironmentDefinition definition = definition(new SourceText(fileName, document));
        lock.hold("environment", definition.name());
        EnvironmentEntity entity = repository.findById(definition.name()).orElseGet(EnvironmentEntity::new);
        entity.name = definition.name();
        entity.title = definition.title();
        entity.live = definition.live();
        entity.document = document;
        entity.savedAt = clock.instant();
        entity.savedBy = by;
        return view(repository.save(entity));
    }

    /**
     * Takes an environment away; what ran there stays as it is.
     *
     * @throws CannotGoOn where runs of it are not at their end
     */
    @Transactional
    public EnvironmentView retire(String name) {
        lock.hold("environment", name);
        EnvironmentEntity entity = entity(name);
        use.requireIdle(name);
        repository.delete(entity);
        return view(entity);
    }

    /**
     * The environment that the work on this thread is about: the one that was named, or the only one.
     *
     * @throws CannotGoOn where none was named and there are several
     */
    @Transactional(readOnly = true)
    public EnvironmentDefinition current() {
        return ChosenEnvironment.name().map(this::named).orElseGet(this::only);
    }

    /**
     * Makes sure that it is clear which environment is meant.
     *
     * @throws CannotGoOn where it is not
     */
    public void requireOne() {
        current();
    }

    /** The environment of a name; the empty one is the one without values. */
    @Transactional(readOnly = true)
    public EnvironmentDefinition named(String name) {
        return name.isEmpty() ? EnvironmentDefinition.NONE : definition(entity(name));
    }

    private EnvironmentDefinition only() {
        List<EnvironmentEntity> all = repository.findAllByOrderByName();
        return switch (all.size()) {
            case 0 -> EnvironmentDefinition.NONE;
            case 1 -> definition(all.getFirst());
            default ->
                throw new CannotGoOn(Problem.of(
                        ProblemCode.ENVIRONMENT_UNCHOSEN,
                        "There are several environments, and none was named: " + String.join(", ", names(all)) + ".",
                        "Name one with --environment."));
        };
    }

    private EnvironmentEntity entity(String name) {
        return repository
                .findById(name)
                .orElseThrow(() -> new CannotGoOn(Problem.of(
                        ProblemCode.NOT_FOUND,
                        "There is no environment " + name + ".",
                        NearestNames.suggestion(
                                name, names(repository.findAllByOrderByName()), "environment list shows all."))));
    }

    private static List<String> names(List<EnvironmentEntity> all) {
        return all.stream().map(entity -> entity.name).toList();
    }

    private static EnvironmentDefinition definition(EnvironmentEntity entity) {
        return definition(new SourceText(entity.name, entity.document));
    }

    private static EnvironmentDefinition definition(SourceText source) {
        List<Problem> problems = new ArrayList<>();
        Optional<EnvironmentDefinition> definition = EnvironmentFile.read(source, problems);
        return definition.orElseThrow(() -> new CannotGoOn(problems));
    }

    private static EnvironmentView view(EnvironmentEntity entity) {
        return new EnvironmentView(
                entity.name,
                entity.title,
                entity.live,
                definition(entity).values().keySet().stream().sorted().toList(),
                entity.document,
                entity.savedAt,
                entity.savedBy);
    }
}
