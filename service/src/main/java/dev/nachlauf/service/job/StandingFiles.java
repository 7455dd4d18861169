package dev.nachlauf.service.job;

import dev.nachlauf.api.FileView;
import dev.nachlauf.core.issue.IssueSystem;
import dev.nachlauf.core.issue.StandingFile;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.system.EditsRows;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.source.OpenedSource;
import dev.nachlauf.service.source.SourcePart;
import dev.nachlauf.service.source.Sources;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * The files that are there and to which a job adds rows. Each is fetched once, and a run keeps what it fetched: a later
 * attempt adds to the same rows, and what was there before is never lost.
 */
final class StandingFiles implements AutoCloseable {
    /** Marks them among the files that are kept with a run. */
    private static final String INTO = "into ";

    private final Sources sources;
    private final ScratchSpace scratchSpace;
    private final Map<String, List<SourcePart>> kept;
    /** What was looked at; empty where no file is there. */
    private final Map<String, Optional<Standing>> looked = new HashMap<>();

    private final Map<String, RecordDescription> described = new HashMap<>();
    private @Nullable ScratchFolder scratch;

    /** @param kept what was fetched before */
    StandingFiles(Sources sources, ScratchSpace scratchSpace, Map<String, List<SourcePart>> kept) {
        this.sources = sources;
        this.scratchSpace = scratchSpace;
        this.kept = new LinkedHashMap<>(only(kept, true));
    }

    /** Whether a file that is kept with a run is one to which it adds. */
    static boolean isAddedTo(String kept) {
        return kept.startsWith(INTO);
    }

    /** Those of the files kept with a run in which it looks something up. */
    static Map<String, List<SourcePart>> others(Map<String, List<SourcePart>> kept) {
        return only(kept, false);
    }

    private static Map<String, List<SourcePart>> only(Map<String, List<SourcePart>> kept, boolean addedTo) {
        return kept.entrySet().stream()
                .filter(one -> isAddedTo(one.getKey()) == addedTo)
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
    }

    /** The files that were looked at, each with the name under which it is found again. */
    Map<String, List<SourcePart>> kept() {
        return Map.copyOf(kept);
    }

    private static String name(String connection, String file) {
        return INTO + connection + " " + file;
    }

    /**
     * The file as it is there.
     *
     * @param format the word of its format
     * @param options how it is read
     * @return empty where no file of the name is there
     * @throws dev.nachlauf.core.problem.CannotGoOn where it can't be read
     */
    Optional<Standing> look(String connection, String file, String format, FormatOptions options, HoldsFiles place) {
        return looked.computeIfAbsent(name(connection, file), name -> {
            requireOne(file);
            List<SourcePart> parts = kept.get(name);
            if (parts == null) {
                List<FileView> files = sources.fetch(connection, place, file);
                if (files.isEmpty()) {
                    return Optional.empty();
                }
                parts = sources.parts(files, Optional.of(format), options, folder());
            }
            requireNotPacked(parts);
            OpenedSource source = sources.look(parts, List.of(), folder());
            kept.put(name, source.parts());
            Standing standing = new Standing(source);
            standing.format().requireEditable(file, standing.options());
            return Optional.of(standing);
        });
    }

    private static void requireOne(String file) {
        if (file.contains("*") || file.contains("?")) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.OUTPUT_UNFIT,
                    file + " is a pattern, but rows are added to one file.",
                    "Say its name in the job's write: file."));
        }
    }

    private static void requireNotPacked(List<SourcePart> parts) {
        SourcePart part = parts.getFirst();
        if (parts.size() > 1 || !part.member().equals(part.file().name())) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.OUTPUT_UNFIT,
                    part.file().name() + " is packed, so no rows can be added to it.",
                    "Unpack it, and name the file that was in it."));
        }
    }

    /** Notes what the job writes to a file. */
    void describe(String connection, RecordDescription written) {
        described.put(name(connection, written.name()), written);
    }

    /** Those of a connection, as targets find them. */
    IssueSystem.Standing of(String connection) {
        return new IssueSystem.Standing() {
            @Override
            public boolean keeps(String file) {
                return looked.containsKey(name(connection, file));
            }

            @Override
            public Optional<RecordDescription> described(String file) {
                return Optional.ofNullable(described.get(name(connection, file)));
            }

            @Override
            public Optional<StandingFile> file(String file) {
                return looked.getOrDefault(name(connection, file), Optional.empty())
                        .map(StandingFile.class::cast);
            }

            @Override
            public Path scratch() {
                return folder();
            }
        };
    }

    /** The content of the file as it was found; empty where none was there. */
    Optional<String> hash(String connection, String file) {
        return looked.getOrDefault(name(connection, file), Optional.empty())
                .map(standing -> standing.part().file().hash());
    }

    private synchronized Path folder() {
        if (scratch == null) {
            scratch = scratchSpace.create();
        }
        return scratch.path();
    }

    @Override
    public void close() {
        if (scratch != null) {
            scratch.close();
        }
    }

    /** A file that is there. */
    final class Standing implements StandingFile {
        private final OpenedSource source;

        private Standing(OpenedSource source) {
            this.source = source;
        }

        SourcePart part() {
            return source.parts().getFirst();
        }

        @Override
        public List<String> columns() {
            return source.fields().stream().map(SourceField::name).toList();
        }

        @Override
        public SourceReader read() {
            return sources.joined(source.parts(), source.fields(), List.of(), folder());
        }

        @Override
        public void copy(RowEdits edits, OutputStream out) throws IOException {
            format().copy(sources.bytes(part(), folder()), options(), edits, out);
        }

        private EditsRows format() {
            return (EditsRows) sources.format(part().format());
        }

        private FormatOptions options() {
            return new FormatOptions(part().options(), List.of());
        }

        /** Closes a field whose values can't be changed where it stands. */
        FieldDescription closedIfFixed(FieldDescription field) {
            return source.fields().stream()
                    .filter(there -> there.name().equals(field.name()))
                    .findFirst()
                    .flatMap(format()::whyFixed)
                    .map(field::closed)
                    .orElse(field);
        }
    }
}
