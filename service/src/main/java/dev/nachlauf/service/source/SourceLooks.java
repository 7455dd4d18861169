package dev.nachlauf.service.source;

import dev.nachlauf.api.FoundFileView;
import dev.nachlauf.api.ProfileRecords;
import dev.nachlauf.api.ProfileRequest;
import dev.nachlauf.api.ProfileView;
import dev.nachlauf.api.SourceRequest;
import dev.nachlauf.api.SourceView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.profile.KeyAdvice;
import dev.nachlauf.core.profile.KeyAdvisor;
import dev.nachlauf.core.profile.Profile;
import dev.nachlauf.core.profile.Profiler;
import dev.nachlauf.core.source.Sample;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Shows what a source looks like and what it holds. */
@Service
class SourceLooks {
    private final RequestedSource requested;
    private final Connections connections;
    private final Sources sources;

    private final ScratchSpace scratchSpace;

    SourceLooks(RequestedSource requested, Connections connections, Sources sources, ScratchSpace scratchSpace) {
        this.scratchSpace = scratchSpace;
        this.requested = requested;
        this.connections = connections;
        this.sources = sources;
    }

    SourceView preview(SourceRequest request) {
        try (ScratchFolder scratch = scratchSpace.create()) {
            RequestedSource.Found found = requested.find(request, scratch.path());
            try (SourceReader reader = found.open().get()) {
                Sample sample = Sample.take(reader);
                List<String> settable = found.parts().isEmpty()
                        ? List.of()
                        : sources.format(found.parts().getFirst().format()).options().stream()
                                .map(setting -> setting.name())
                                .toList();
                return SourceViews.of(request, found, sample, settable);
            }
        }
    }

    ProfileView profile(ProfileRequest request) {
        try (ScratchFolder scratch = scratchSpace.create()) {
            RequestedSource.Found found = requested.find(request.source(), scratch.path());
            Supplier<SourceReader> open = found.open();
            List<List<String>> asked = Objects.requireNonNullElse(request.keys(), List.of());
            List<List<String>> keys = asked.stream()
                    .map(key -> key.stream().map(KeyAdvisor::column).toList())
                    .toList();
            if (request.targetConnection() == null || request.targetRecords() == null) {
                Profile profile = keys.isEmpty()
                        ? Profiler.profile(open, scratch.path())
                        : Profiler.profile(open, keys, scratch.path());
                return new ProfileViews(sensitive(request, found, List.of())).of(found.name(), profile, List.of());
            }
            Profile profile = Profiler.profile(open, keys, scratch.path());
            List<KeyAdvice> advice = advice(open, request.targetConnection(), request.targetRecords(), asked, scratch);
            return new ProfileViews(sensitive(request, found, advice)).of(found.name(), profile, advice);
        }
    }

    /** Columns whose values the connection, or the one that is written to, keeps from those who look. */
    private Set<String> sensitive(ProfileRequest request, RequestedSource.Found source, List<KeyAdvice> advice) {
        Set<String> columns = new HashSet<>(source.sensitive());
        if (request.targetConnection() != null && request.targetRecords() != null) {
            Set<String> fields = connections.marks(request.targetConnection()).sensitive(request.targetRecords());
            columns.addAll(fields);
            for (KeyAdvice candidate : advice) {
                for (int part = 0; part < candidate.target().size(); part++) {
                    if (fields.contains(candidate.target().get(part))) {
                        columns.add(candidate.source().get(part));
                    }
                }
            }
        }
        return columns;
    }

    private List<KeyAdvice> advice(
            Supplier<SourceReader> open,
            String connection,
            String records,
            List<List<String>> asked,
            ScratchFolder scratch) {
        try (OpenSystem system = connections.opened(connection)) {
            if (!(system instanceof Writes target)) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.CONNECTION_UNFIT,
                        "Keys can't be compared with " + connection + ": it can't be written to.",
                        "Name the connection that the job is to write to."));
            }
            RecordDescription description = connections
                    .describe(connection, target, records)
                    .orElseThrow(() -> new CannotGoOn(Problem.of(
                            ProblemCode.RECORDS_UNKNOWN,
                            "The connection " + connection + " has no record type " + records + ".",
                            "connection records " + connection + " shows all.")));
            return KeyAdvisor.advise(open, description, target, asked, scratch.path());
        }
    }

    ProfileView profileRecords(String connection, String records, ProfileRecords request) {
        return profile(new ProfileRequest(
                new SourceRequest(null, null, connection, records, null, null, null, null, null, null),
                request.keys(),
                null,
                null));
    }

    List<FoundFileView> files(String connection, String pattern) {
        try (OpenSystem system = connections.opened(connection)) {
            if (!(system instanceof HoldsFiles place)) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.CONNECTION_UNFIT,
                        "The connection " + connection + " holds no files.",
                        "connection records " + connection + " shows them."));
            }
            return place.find(pattern).stream()
                    .map(file -> new FoundFileView(file.name(), file.size(), known(file.modified())))
                    .toList();
        }
    }

    private static @Nullable Instant known(Instant modified) {
        return modified.equals(Instant.EPOCH) ? null : modified;
    }
}
