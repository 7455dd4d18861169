package dev.nachlauf.service.connection;

import dev.nachlauf.api.ConnectionView;
import dev.nachlauf.api.FieldView;
import dev.nachlauf.core.document.SettingValue;
import dev.nachlauf.core.job.ConnectionDefinition;
import dev.nachlauf.core.job.ConnectionFile;
import dev.nachlauf.core.job.EnvironmentDefinition;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Ability;
import dev.nachlauf.core.system.Connectors;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.HoldsRecords;
import dev.nachlauf.core.system.Marks;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.Reach;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.Secrets;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.SystemType;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.service.environment.Environments;
import dev.nachlauf.service.store.NameLock;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps connections and opens the systems behind them. */
@Service
public class Connections {
    private final ConnectionRepository repository;
    private final Connectors connectors;
    private final Secrets secrets;
    private final Environments environments;
    private final ReachGuard reach;
    private final SecretBindings bindings;
    private final NameLock lock;
    private final Clock clock;

    Connections(
            ConnectionRepository repository,
            Connectors connectors,
            Secrets secrets,
            Environments environments,
            ReachGuard reach,
            SecretBindings bindings,
            NameLock lock,
            Clock clock) {
        this.environments = environments;
        this.reach = reach;
        this.bindings = bindings;
        this.lock = lock;
        this.repository = repository;
        this.connectors = connectors;
        this.secrets = secrets;
        this.clock = clock;
    }

    /** All connections by name. */
    @Transactional(readOnly = true)
    public List<ConnectionView> list() {
        return repository.findAllByOrderByName().stream().map(this::view).toList();
    }

    /** One connection. */
    @Transactional(readOnly = true)
    public ConnectionView show(String name) {
        return view(entity(name));
    }

    /** Keeps a document, new or changed; refuses one with errors. */
    @Transactional
    public ConnectionView save(String fileName, String document, String by) {
        ConnectionDefinition definition = definition(new SourceText(fileName, document));
        lock.hold("connection", definition.name());
        ConnectionEntity entity = repository.findByName(definition.name()).orElseGet(ConnectionEntity::new);
        entity.name = definition.name();
        entity.title = definition.title();
        entity.type = definition.type().value();
        entity.document = document;
        entity.savedAt = clock.instant();
        entity.savedBy = by;
        return view(repository.save(entity));
    }

    /**
     * Opens the system behind a connection, with the values of the environment that the work on this thread is about; empty
     * where there is no connection of this name.
     */
    public Optional<OpenSystem> open(String name) {
        return repository.findByName(name).map(entity -> {
            ConnectionDefinition definition = here(definition(new SourceText(name, entity.document)));
            Settings settings = new Settings(definition.settings(), secrets);
            Reach leads = type(definition).reach(settings);
            reach.require(leads);
            if (leads instanceof Reach.Host host) {
                secretsOf(definition).forEach(secret -> bindings.require(secret, host.name(), name));
            }
            return type(definition).open(settings);
        });
    }

    private ConnectionDefinition here(ConnectionDefinition connection) {
        if (!EnvironmentDefinition.isNamedIn(connection)) {
            return connection;
        }
        List<Problem> problems = new ArrayList<>();
        EnvironmentDefinition environment = environments.current();
        ConnectionDefinition filled = environment.fill(connection, problems);
        type(filled).settings().stream()
                .filter(Setting::secret)
                .map(Setting::name)
                .filter(name -> filled.settings().containsKey(name)
                        && !SettingValue.isReference(filled.settings().get(name)))
                .forEach(name -> problems.add(Problem.at(
                        filled.places().getOrDefault(name, Place.NOWHERE),
                        ProblemCode.SECRET_UNSAFE,
                        "The environment " + environment.name() + " holds a plain " + name
                                + ", and a secret never stands in an environment.",
                        "Name there where the service finds it: { env: NAME } or { file: NAME }.")));
        if (!problems.isEmpty()) {
            throw new CannotGoOn(problems);
        }
        return filled;
    }

    /** The references of the secrets that a connection uses. */
    private List<String> secretsOf(ConnectionDefinition definition) {
        return type(definition).settings().stream()
                .filter(Setting::secret)
                .map(setting -> definition.settings().get(setting.name()))
                .filter(Objects::nonNull)
                .toList();
    }

    /** Our own marks on the fields of a connection; none where there is no such connection. */
    public Marks marks(String name) {
        return repository
                .findByName(name)
                .map(entity -> definition(new SourceText(name, entity.document)).marks())
                .orElse(Marks.NONE);
    }

    /** What a record type demands, with our own marks; empty where there is none of this name. */
    public Optional<RecordDescription> describe(String connection, HoldsRecords system, String records) {
        return system.describe(records).map(marks(connection)::on);
    }

    /** The fields of a record type by name, for people, with what the connection says of them. */
    public Map<String, FieldView> fields(String connection, RecordDescription records) {
        Marks marks = marks(connection);
        Map<String, FieldView> views = new LinkedHashMap<>();
        for (FieldDescription field : records.fields()) {
            views.put(field.name(), Looking.view(records, field, marks.of(records.name(), field.name())));
        }
        return views;
    }

    /** The names of all connections. */
    public List<String> names() {
        return repository.findAllByOrderByName().stream()
                .map(entity -> entity.name)
                .toList();
    }

    /** Opens the system behind a connection that must exist. */
    public OpenSystem opened(String name) {
        return open(name).orElseThrow(() -> unknown(name));
    }

    private ConnectionEntity entity(String name) {
        return repository.findByName(name).orElseThrow(() -> unknown(name));
    }

    private CannotGoOn unknown(String name) {
        return new CannotGoOn(Problem.of(
                ProblemCode.NOT_FOUND,
                "There is no connection " + name + ".",
                NearestNames.suggestion(name, names(), "connection list shows all.")));
    }

    private ConnectionDefinition definition(SourceText source) {
        List<Problem> problems = new ArrayList<>();
        Optional<ConnectionDefinition> definition = ConnectionFile.read(source, problems);
        definition.ifPresent(sound -> check(sound, problems));
        if (!problems.isEmpty()) {
            throw new CannotGoOn(problems);
        }
        return definition.orElseThrow();
    }

    private SystemType type(ConnectionDefinition definition) {
        return connectors.system(definition.type().value()).orElseThrow();
    }

    private void check(ConnectionDefinition definition, List<Problem> problems) {
        String word = definition.type().value();
        Optional<SystemType> type = connectors.system(word);
        if (type.isEmpty()) {
            List<String> known =
                    connectors.systems().stream().map(SystemType::type).sorted().toList();
            problems.add(Problem.at(
                    definition.type().place(),
                    ProblemCode.VALUE_WRONG_KIND,
                    "There is no type of system " + word + ".",
                    NearestNames.suggestion(word, known, "Types: " + String.join(", ", known) + ".")));
            return;
        }
        List<Setting> settings = type.get().settings();
        definition.settings().forEach((name, value) -> {
            Place place = definition.places().getOrDefault(name, Place.NOWHERE);
            check(word, settings, name, value, place).ifPresent(problems::add);
        });
        for (Setting setting : settings) {
            if (setting.required() && !definition.settings().containsKey(setting.name())) {
                problems.add(Problem.at(
                        definition.type().place(),
                        ProblemCode.SETTING_MISSING,
                        "The setting " + setting.name() + " is missing: " + setting.help() + ".",
                        "Add it under settings."));
            }
        }
    }

    /** What is wrong with one setting that a connection makes; empty where nothing is. */
    private static Optional<Problem> check(
            String type, List<Setting> settings, String name, String value, Place place) {
        List<String> names = settings.stream().map(Setting::name).toList();
        Optional<Setting> known =
                settings.stream().filter(setting -> setting.name().equals(name)).findFirst();
        if (known.isEmpty()) {
            return Optional.of(Problem.at(
                    place,
                    ProblemCode.SETTING_UNKNOWN,
                    "A connection of type " + type + " has no setting " + name + ".",
                    NearestNames.suggestion(name, names, "Settings: " + String.join(", ", names) + ".")));
        }
        return known.get().secret() && !SettingValue.isReference(value) && !EnvironmentDefinition.isNamed(value)
                ? Optional.of(Problem.at(
                        place,
                        ProblemCode.SECRET_UNSAFE,
                        "A secret never stands in a connection.",
                        "Name where the service finds it: " + name + ": { env: NAME } or { file: NAME }."))
                : Optional.empty();
    }

    private ConnectionView view(ConnectionEntity entity) {
        List<String> abilities = connectors.system(entity.type).map(Ability::of).orElse(List.of()).stream()
                .map(Ability::word)
                .toList();
        return new ConnectionView(
                entity.name, entity.title, entity.type, abilities, entity.document, entity.savedAt, entity.savedBy);
    }
}
