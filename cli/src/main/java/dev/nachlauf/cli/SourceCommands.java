package dev.nachlauf.cli;

import dev.nachlauf.api.FileView;
import dev.nachlauf.api.ProfileRequest;
import dev.nachlauf.api.ProfileView;
import dev.nachlauf.api.SourceRequest;
import dev.nachlauf.api.SourceRequest.FieldReading;
import dev.nachlauf.api.SourceView;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Sources: what a file or record type looks like and holds, before anything is mapped. */
@Command(description = "Sources: what a file looks like and holds, before anything is mapped.")
final class SourceCommands extends Group {
    @Override
    List<Class<? extends Verb>> verbs() {
        return List.of(Preview.class, Profile.class);
    }

    /** What both commands look at. */
    static final class Looked {
        @Parameters(
                paramLabel = "FILE",
                arity = "0..1",
                description = "A file of this machine, - for a pasted sample, or a file of --connection.")
        private Optional<String> file = Optional.empty();

        @Option(names = "--connection", paramLabel = "NAME", description = "Where the file or the records are.")
        private Optional<String> connection = Optional.empty();

        @Option(names = "--records", paramLabel = "RECORDS", description = "A record type of the connection.")
        private Optional<String> records = Optional.empty();

        @Option(names = "--query", paramLabel = "TEXT", description = "A query to the connection.")
        private Optional<String> query = Optional.empty();

        @Option(names = "--as", paramLabel = "FORMAT", description = "The format, where it is not to be detected.")
        private Optional<String> as = Optional.empty();

        @Option(
                names = "--option",
                paramLabel = "NAME=VALUE",
                description = "An option of the format, such as header-row=2; repeatable.")
        private Map<String, String> options = new LinkedHashMap<>();

        @Option(
                names = "--field",
                paramLabel = "NAME=KIND[:PATTERN]",
                description = "How a field is read, such as opens=date:dd.MM.yyyy or price=decimal:de; repeatable.")
        private Map<String, String> fields = new LinkedHashMap<>();

        SourceRequest request(Verb verb, int rows) {
            boolean ofRecords = records.isPresent() || query.isPresent();
            if (ofRecords && connection.isEmpty() || !ofRecords && file.isEmpty()) {
                throw verb.misuse(
                        ofRecords
                                ? "Name the --connection that holds them."
                                : "Name a file, or --connection and --records.");
            }
            if (ofRecords || connection.isPresent()) {
                return request(null, file.orElse(null), null, rows);
            }
            Path path = verb.surroundings().file(file.orElse(""));
            if (path.equals(Surroundings.STANDARD_INPUT)) {
                return request(null, "sample", verb.surroundings().read(path), rows);
            }
            FileView kept = verb.service().upload(path);
            return request(kept.hash(), kept.name(), null, rows);
        }

        private SourceRequest request(@Nullable String hash, @Nullable String name, @Nullable String sample, int rows) {
            return new SourceRequest(
                    hash,
                    name,
                    connection.orElse(null),
                    records.orElse(null),
                    query.orElse(null),
                    sample,
                    as.orElse(null),
                    options,
                    readings(),
                    rows);
        }

        /** Behind the kind stands a pattern for dates and times, a locale for numbers. */
        private List<FieldReading> readings() {
            List<FieldReading> readings = new ArrayList<>();
            fields.forEach((name, stated) -> {
                String kind = stated.contains(":") ? stated.substring(0, stated.indexOf(':')) : stated;
                String detail = stated.contains(":") ? stated.substring(stated.indexOf(':') + 1) : null;
                boolean number = kind.equals("integer") || kind.equals("decimal");
                readings.add(new FieldReading(name, kind, number ? null : detail, number ? detail : null));
            });
            return readings;
        }
    }

    @Command(name = "preview", description = "The detected options of a source and its first rows.")
    static final class Preview extends Verb {
        @Mixin
        private Looked looked = new Looked();

        @Option(names = "--rows", paramLabel = "N", description = "How many rows to show.", defaultValue = "10")
        private int rows;

        @Override
        public Integer call() {
            SourceView view = service().post("/sources/preview", looked.request(this, rows), SourceView.class);
            output().one(view, SourceText::lines);
            return view.failures().isEmpty() ? ExitStatus.WELL : ExitStatus.REFUSED;
        }
    }

    @Command(name = "profile", description = "What a source holds, field by field, and which keys it offers.")
    static final class Profile extends Verb {
        @Mixin
        private Looked looked = new Looked();

        @Option(
                names = "--key",
                paramLabel = "a,b=c",
                description = "Fields that might tell rows apart, with the target's field behind = where it is called"
                        + " otherwise; repeatable.")
        private List<String> keys = List.of();

        @Option(
                names = "--into",
                paramLabel = "CONNECTION RECORDS",
                arity = "2",
                description = "The record type that keys are compared with.")
        private List<String> into = List.of();

        @Override
        public Integer call() {
            ProfileRequest request = new ProfileRequest(
                    looked.request(this, 1),
                    ProfileText.keys(keys),
                    into.isEmpty() ? null : into.get(0),
                    into.isEmpty() ? null : into.get(1));
            ProfileView profile = service().post("/sources/profile", request, ProfileView.class);
            output().one(profile, ProfileText::lines);
            return profile.failures().isEmpty() ? ExitStatus.WELL : ExitStatus.REFUSED;
        }
    }
}
