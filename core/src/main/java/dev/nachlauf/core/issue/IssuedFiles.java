package dev.nachlauf.core.issue;

import dev.nachlauf.core.job.Issue;
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
import org.jspecify.annotations.Nullable;

/** Makes the files of a run from its ledger, planned or written. The order of rows is that of the source. */
public final class IssuedFiles {
    private final Plan plan;
    private final LedgerChunks ledger;
    private final Map<String, String> facts;
    private final Outputs outputs;

    /** Begins a file of a write that is spelled in a format. */
    @FunctionalInterface
    public interface Outputs {
        RowWriter begin(PlannedWrite write, OutputStream out, List<Field> fields) throws IOException;
    }

    /**
     * The files of a run.
     *
     * @param facts what names of files, heads and feet may hold: {@code run} and parameters
     */
    public IssuedFiles(Plan plan, LedgerChunks ledger, Map<String, String> facts, Outputs outputs) {
        this.plan = plan;
        this.ledger = ledger;
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
        for (int write = 0; write < plan.writes().size(); write++) {
            if (plan.writes().get(write).issue().isPresent()) {
                try (Making making = new Making(write, folder)) {
                    made.addAll(making.made());
                }
            }
        }
        return made;
    }

    private static boolean isIssued(LedgerRow line, int write) {
        return line.write() == write && line.outcome() == Outcome.ISSUED;
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

        Making(int index, Path folder) {
            this.index = index;
            this.write = plan.writes().get(index);
            this.issue = write.issue().orElseThrow();
            this.folder = folder;
            this.total = ledger.chunks().stream().mapToLong(this::issued).sum();
        }

        private long issued(Chunk.Head head) {
            return head.tally().writes().isEmpty()
                    ? head.counts().issued()
                    : head.tally().writes().get(index).issued();
        }

        private long partsOf() {
            return issue.partsOf().isPresent() ? issue.partsOf().getAsInt() : Long.MAX_VALUE;
        }

        private long parts() {
            return Math.max(1, issue.partsOf().isPresent() ? (total + partsOf() - 1) / partsOf() : 1);
        }

        List<Made> made() throws IOException {
            LedgerWrites writes = LedgerWrites.of(plan);
            for (Chunk.Head head : ledger.chunks()) {
                if (issued(head) > 0) {
                    for (LedgerRow line : ChunkCodec.rows(ledger.chunk(head.batch()), writes)) {
                        if (isIssued(line, index)) {
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
