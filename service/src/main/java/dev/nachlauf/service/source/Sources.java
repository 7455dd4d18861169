package dev.nachlauf.service.source;

import dev.nachlauf.api.FileView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.source.JoinedReader;
import dev.nachlauf.core.source.Sample;
import dev.nachlauf.core.source.SpooledRecords;
import dev.nachlauf.core.spool.Disk;
import dev.nachlauf.core.system.Connectors;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.OutputFormat;
import dev.nachlauf.core.system.ReadsRecords;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.system.ReadsRecords.RecordQuery;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceFormat;
import dev.nachlauf.core.system.SourceFormat.Lack;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.system.TableFormat;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.look.RowWatch;
import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Fetches sources into the store, settles how they are read, and opens them. */
@Service
public class Sources {
    private final FileStore files;
    private final Fetching fetching;
    private final Connectors connectors;

    private final ScratchSpace scratchSpace;

    Sources(FileStore files, Fetching fetching, Connectors connectors, ScratchSpace scratchSpace) {
        this.scratchSpace = scratchSpace;
        this.files = files;
        this.fetching = fetching;
        this.connectors = connectors;
    }

    /**
     * The files of a place that match a pattern, copied into the store, by name.
     *
     * @throws CannotGoOn where a file that is named exactly is still being written
     */
    public List<FileView> fetch(String connection, HoldsFiles place, String pattern) {
        Fetching.Fetch fetch = fetching.all(connection, place, pattern);
        if (fetch.files().isEmpty() && !fetch.unfinished().isEmpty()) {
            String name = fetch.unfinished().getFirst().name();
            throw new CannotGoOn(
                    Problem.of(
                            ProblemCode.FILE_UNFINISHED,
                            "The file " + name + " is still being written, or was a moment ago.",
                            "Start again when it is finished. The connection's setting quiet says how long it must lie untouched."));
        }
        return fetch.files();
    }

    /** Records, kept as a file so that they can be read again as they are now. */
    public FileView keep(String name, ReadsRecords system, RecordQuery query) {
        return keep(name, system, query, null).file();
    }

    /**
     * Kept records.
     *
     * @param greatest the greatest value of a field, as its canonical text; null where no record has one
     */
    public record KeptRecords(FileView file, @Nullable String greatest) {}

    /** Records, kept as a file; the greatest value of a field is noted on the way. */
    public KeptRecords keep(String name, ReadsRecords system, RecordQuery query, @Nullable String watched) {
        try (ScratchFolder scratch = scratchSpace.create()) {
            Path spool = scratch.path().resolve("records");
            GreatestValue greatest;
            try (RecordCursor cursor = system.read(query);
                    OutputStream out = new BufferedOutputStream(Files.newOutputStream(spool))) {
                greatest = new GreatestValue(cursor, watched);
                SpooledRecords.write(greatest, out);
            } catch (IOException e) {
                throw Disk.failure(e, scratch.path());
            }
            try (InputStream in = Files.newInputStream(spool)) {
                return new KeptRecords(files.keep(name, in), greatest.text());
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A part that holds kept records. */
    public static SourcePart records(FileView kept) {
        return new SourcePart(kept, kept.name(), SpooledRecords.NAME, Map.of());
    }

    /**
     * The parts of kept files with their formats settled.
     *
     * @param as the stated format; empty where it is to be detected
     * @param scratch a folder for what has to be unpacked
     */
    public List<SourcePart> parts(List<FileView> kept, Optional<String> as, FormatOptions options, Path scratch) {
        List<SourcePart> parts = new ArrayList<>();
        for (FileView file : kept) {
            for (SourceBytes member : members(file, scratch)) {
                String format = as.orElseGet(() -> recognise(member).value());
                parts.add(new SourcePart(file, member.id(), format, options.stated()));
            }
        }
        return parts;
    }

    /** Looks at parts: settles their options, joins their fields, takes a sample. */
    public OpenedSource look(List<SourcePart> parts, List<String> declared, Path scratch) {
        List<SourcePart> settled = new ArrayList<>();
        Map<String, List<SourceField>> own = new LinkedHashMap<>();
        List<Lack> lacks = new ArrayList<>();
        List<Detected> options = List.of();
        for (SourcePart part : parts) {
            try (SourceReader reader = open(part, declared, scratch)) {
                options = options.isEmpty() ? reader.options() : options;
                settled.add(new SourcePart(part.file(), part.member(), part.format(), inForce(part, reader.options())));
                own.put(shown(part, parts), reader.fields());
                lacks.addAll(reader.lacks());
            }
        }
        List<SourceField> fields = JoinedReader.union(List.copyOf(own.values()));
        lacks.addAll(JoinedReader.lacks(fields, own));
        try (SourceReader joined = joined(settled, fields, declared, scratch)) {
            Sample sample = Sample.take(joined);
            return new OpenedSource(settled, fields, lacks, withOptions(sample, options));
        }
    }

    /** A part as people know it, with its archive where several have such a part. */
    private static String shown(SourcePart part, List<SourcePart> all) {
        boolean alone = all.stream()
                        .filter(other -> other.member().equals(part.member()))
                        .count()
                == 1;
        return alone ? part.member() : part.member() + " of " + part.file().name() + " #" + (all.indexOf(part) + 1);
    }

    private static Sample withOptions(Sample sample, List<Detected> options) {
        return new Sample(
                sample.fields(),
                options,
                sample.lacks(),
                sample.rows(),
                sample.guesses(),
                sample.kinds(),
                sample.whole(),
                sample.failures());
    }

    /** What was detected is stated from now on, so that the file is read again in the same way. */
    private Map<String, String> inForce(SourcePart part, List<Detected> detected) {
        List<String> known =
                format(part.format()).options().stream().map(Setting::name).toList();
        Map<String, String> options = new LinkedHashMap<>(part.options());
        for (Detected option : detected) {
            if (known.contains(option.option()) && !option.value().isEmpty()) {
                options.putIfAbsent(option.option(), option.value());
            }
        }
        return options;
    }

    /** Opens parts one after the other as one source. */
    public SourceReader joined(List<SourcePart> parts, List<SourceField> fields, List<String> declared, Path scratch) {
        List<Supplier<SourceReader>> readers = new ArrayList<>();
        for (SourcePart part : parts) {
            readers.add(() -> open(part, declared, scratch));
        }
        return new JoinedReader(fields, readers);
    }

    /** Opens one part. */
    public SourceReader open(SourcePart part, List<String> declared, Path scratch) {
        SourceBytes bytes = bytes(part, scratch);
        return RowWatch.over(format(part.format()).read(bytes, new FormatOptions(part.options(), declared)));
    }

    /** The bytes of one part. */
    public SourceBytes bytes(SourcePart part, Path scratch) {
        List<SourceBytes> members = members(part.file(), scratch);
        for (SourceBytes member : members) {
            // runs of earlier versions know a member by its name for people
            if (member.id().equals(part.member()) || members.size() == 1) {
                return member;
            }
        }
        throw new CannotGoOn(Problem.of(
                ProblemCode.FILE_MISSING,
                "The archive " + part.file().name() + " holds no file " + part.member() + ".",
                "Start a new run."));
    }

    private List<SourceBytes> members(FileView file, Path scratch) {
        try {
            return connectors.members(files.bytes(file.hash(), file.name()), scratch);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** The format that a file most likely has. */
    Detected recognise(SourceBytes bytes) {
        try (InputStream in = new BufferedInputStream(bytes.open())) {
            return connectors.recognise(bytes.file(), in.readNBytes(SourceFormat.START));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** The first file inside of a kept file with the format it most likely has. */
    Detected recognise(FileView file, Path scratch) {
        return recognise(members(file, scratch).getFirst());
    }

    /** A format by its word. */
    public SourceFormat format(String name) {
        return connectors.format(name).orElseThrow(() -> {
            List<String> known = formats();
            return new CannotGoOn(Problem.of(
                    ProblemCode.VALUE_WRONG_KIND,
                    "There is no format " + name + ".",
                    NearestNames.suggestion(name, known, "Formats: " + String.join(", ", known) + ".")));
        });
    }

    /** A format of tables by its word. */
    public TableFormat table(String name) {
        return connectors.table(name).orElseThrow();
    }

    /** The format of output that a name or, where none is stated, the ending of a file stands for; empty for none. */
    public Optional<OutputFormat> output(@Nullable String name, String file) {
        String ending = file.substring(file.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
        return name != null
                ? connectors.output(name)
                : connectors.outputs().stream()
                        .filter(format -> format.endings().contains(ending))
                        .findFirst();
    }

    /** The words of all formats in which files can be written. */
    public List<String> outputs() {
        return connectors.outputs().stream().map(OutputFormat::name).sorted().toList();
    }

    /** The words of all formats that files can have. */
    public List<String> formats() {
        return connectors.formats().stream()
                .map(SourceFormat::name)
                .filter(format -> !format.equals(SpooledRecords.NAME))
                .sorted()
                .toList();
    }
}
