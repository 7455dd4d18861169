package dev.nachlauf.core.issue;

import dev.nachlauf.core.job.Issue;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.run.Chunk;
import dev.nachlauf.core.run.ChunkCodec;
import dev.nachlauf.core.run.LedgerChunks;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.LedgerWrites;
import dev.nachlauf.core.system.OutputFormat.Field;
import dev.nachlauf.core.system.OutputFormat.RowWriter;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Makes the files of a run from its ledger, planned or written. The order of rows is that of the source. */
public final class IssuedFiles {
    private final Plan plan;
    private final LedgerChunks ledger;
    private final LedgerWrites writes;
    private final Map<String, String> facts;
    private final Outputs outputs;
    private final Function<String, IssueSystem.Standing> standing;

    /** Begins a file of a write that is spelled in a format. */
    @FunctionalInterface
    public interface Outputs {
        RowWriter begin(PlannedWrite write, OutputStream out, List<Field> fields) throws IOException;
    }

    /**
     * The files of a run.
     *
     * @param writes those of the ledger; of an undo they come in another order than those of the plan
     * @param facts what names of files, heads and feet may hold: {@code run} and parameters
     * @param standing the files that are there and keep their rows, by the connection as the job writes it
     */
    public IssuedFiles(
            Plan plan,
            LedgerChunks ledger,
            LedgerWrites writes,
            Map<String, String> facts,
            Outputs outputs,
            Function<String, IssueSystem.Standing> standing) {
        this.plan = plan;
        this.ledger = ledger;
        this.writes = writes;
        this.standing = standing;
        this.facts = Map.copyOf(facts);
        this.outputs = outputs;
    }

    /**
     * A file that was made.
     *
     * @param name under which it is delivered
     * @param rows how many rows it holds
     */
    public record Made(PlannedWrite write, String name, long rows, Path content) {}

    /**
     * Makes all files of all writes. A write of which no row is issued makes one without rows.
     *
     * @param folder for them
     */
    public List<Made> make(Path folder) throws IOException {
        List<Made> made = new ArrayList<>();
        for (PlannedWrite write : plan.writes()) {
            if (write.issue().isPresent()) {
                Optional<StandingFile> there =
                        standing.apply(write.connection()).file(write.target().name());
                if (there.isPresent()) {
                    made.add(changed(write, there.get(), folder));
                    continue;
                }
                try (Making making = new Making(write, folder)) {
                    made.addAll(making.made());
                }
            }
        }
        return made;
    }

    private Made changed(PlannedWrite write, StandingFile there, Path folder) throws IOException {
        int index = index(write);
        Path content = folder.resolve("issued-" + index + "-1");
        StandingRows rows = new StandingRows(there, write.target(), write.keyNames(), write.fieldNames());
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(content))) {
            long count = new ChangedFile(rows, () -> lines(index).iterator(), folder).make(out);
            return new Made(write, new FileName(write.target().name(), false).of(facts, 1), count, content);
        }
    }

    /** Where a write stands in the ledger. */
    private int index(PlannedWrite write) {
        return IntStream.range(0, writes.writes().size())
                .filter(index -> writes.writes().get(index).name().equals(write.name()))
                .findFirst()
                .orElseThrow(() -> new IllegalStateException("the ledger has no write " + write.name()));
    }

    /** What was done to rows of a write, in order. */
    private Stream<LedgerRow> lines(int write) {
        return ledger.chunks().stream()
                .flatMap(head -> ChunkCodec.rows(ledger.chunk(head.batch()), writes).stream())
                .filter(line -> line.write() == write && line.wrote());
    }

    /** The files of one write. */
    private final class Making implements AutoCloseable {
        private final int index;
        private final PlannedWrite write;
        private final Issue issue;
        private final Path folder;
        private final long total;
        private final List<Made> made = new ArrayList<>();
        private @Nullable RowWriter writer;
        private @Nullable OutputStream out;
        private long inPart;
        private long inParts;

        Making(PlannedWrite write, Path folder) {
            this.index = index(write);
            this.write = write;
            this.issue = write.issue().orElseThrow();
            this.folder = folder;
            this.total = ledger.chunks().stream().mapToLong(this::issued).sum();
        }

        /** A file that keeps its rows, and isn't there yet, begins with those that the run adds. */
        private long issued(Chunk.Head head) {
            Counts counts = head.tally().writes().isEmpty()
                    ? head.counts()
                    : head.tally().writes().get(index);
            return counts.issued() + counts.inserted();
        }

        private long partsOf() {
            return issue.partsOf().isPresent() ? issue.partsOf().getAsInt() : Long.MAX_VALUE;
        }

        private long parts() {
            return Math.max(1, issue.partsOf().isPresent() ? (total + partsOf() - 1) / partsOf() : 1);
        }

        List<Made> made() throws IOException {
            for (Chunk.Head head : ledger.chunks()) {
                if (issued(head) > 0) {
                    for (LedgerRow line : ChunkCodec.rows(ledger.chunk(head.batch()), writes)) {
                        if (line.write() == index && (line.outcome() == Outcome.ISSUED || line.wrote())) {
                            add(line.after());
                        }
                    }
                }
            }
            if (made.isEmpty()) {
                begin();
            }
            end();
            return made;
        }

        private void add(@Nullable Object[] values) throws IOException {
            if (writer == null || inPart == partsOf()) {
                end();
                begin();
            }
            writer().row(values);
            inPart++;
        }

        private RowWriter writer() {
            return Objects.requireNonNull(writer);
        }

        private void begin() throws IOException {
            int part = made.size() + 1;
            long rows = Math.min(partsOf(), total - inParts);
            inParts += rows;
            FileName name = new FileName(write.target().name(), issue.partsOf().isPresent());
            Path content = folder.resolve("issued-" + index + "-" + part);
            made.add(new Made(write, name.of(facts, part), rows, content));
            inPart = 0;
            OutputStream bytes = new BufferedOutputStream(Files.newOutputStream(content));
            out = bytes;
            writer = issue.text().isPresent()
                    ? new TextWriter(bytes, issue.text().get(), write.fieldNames(), around(part, rows))
                    : outputs.begin(write, bytes, fields());
        }

        private Map<String, String> around(int part, long rows) {
            Map<String, String> around = new HashMap<>(facts);
            around.put("count", String.valueOf(rows));
            around.put("part", String.valueOf(part));
            around.put("parts", String.valueOf(parts()));
            return around;
        }

        private List<Field> fields() {
            return write.fields().stream()
                    .map(output -> new Field(
                            output.description().name(), output.description().kind()))
                    .toList();
        }

        private void end() throws IOException {
            if (writer != null) {
                writer.close();
                writer = null;
            }
            if (out != null) {
                out.close();
                out = null;
            }
        }

        @Override
        public void close() throws IOException {
            if (out != null) {
                out.close();
            }
        }
    }
}
