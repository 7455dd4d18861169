package dev.nachlauf.service.run;

import dev.nachlauf.api.ControlTotalsView;
import dev.nachlauf.api.IssuedFileView;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.core.drift.ColumnTraits;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.plan.Choice;
import dev.nachlauf.core.plan.Grouping;
import dev.nachlauf.core.record.RowRanges;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.run.LedgerWrites;
import dev.nachlauf.service.store.Json;
import dev.nachlauf.service.store.StoredTell;
import dev.nachlauf.service.store.StoredTraits;
import jakarta.persistence.Convert;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.hibernate.annotations.Immutable;
import org.jspecify.annotations.Nullable;

/** A run, as it was read. It is never written back: what changes after its start, {@link RunTransitions} changes. */
@Entity
@Immutable
@Table(name = "run")
class RunEntity {
    /** From {@link RunTransitions#nextNumber}. */
    @Id
    Long id;

    long jobId;
    String jobName;
    int jobVersion;
    String state;
    long epoch;
    boolean stopRequested;
    boolean beyondLimit;
    String note;

    /** See {@link RunMode}. */
    String mode;

    /** Where it runs; empty where there are no environments. */
    String environment = "";

    @Nullable
    String releasedBy;

    @Nullable
    Instant releasedAt;

    /** When a held run ends by itself. */
    @Nullable
    Instant heldUntil;

    /** The run that this one takes back. */
    @Nullable
    Long undoes;

    /** The run whose rejected rows this one sends again. */
    @Nullable
    Long resubmits;

    /** The values of key fields by which records are chosen that go back; null for all. */
    @Convert(converter = Json.WordMap.class)
    @Nullable
    Map<String, String> undoKeys;

    /** The fields that go back; null for all. */
    @Convert(converter = Json.Words.class)
    @Nullable
    List<String> undoFields;

    @Convert(converter = Json.Problems.class)
    List<ProblemView> reasons;

    String writeName;
    String targetConnection;
    String targetRecords;
    String targetDescription;

    @Convert(converter = Json.Words.class)
    List<String> fields;

    @Convert(converter = Json.Words.class)
    List<String> keyFields;

    @Convert(converter = Json.Columns.class)
    List<SourceColumn> columns;

    /** What is typical of the columns, by their first rows; empty in runs of earlier versions. */
    @Convert(converter = StoredTraits.Text.class)
    List<ColumnTraits> traits = List.of();

    String sourceName;

    @Convert(converter = Json.Problems.class)
    List<ProblemView> warnings;

    @Convert(converter = Json.WordMap.class)
    Map<String, String> parameters;

    /** Whether what it reads was fetched and is kept with it; until then it knows only what it is to read. */
    boolean gathered;

    /** The versions of shared documents it was started with. */
    @Convert(converter = Json.WordMap.class)
    Map<String, String> pins = Map.of();

    @Convert(converter = Json.RunWrites.class)
    List<Json.RunWrite> writes = List.of();

    /** Columns of the source whose values reach a field that is marked as sensitive. */
    @Convert(converter = Json.Words.class)
    List<String> sensitiveColumns = List.of();

    /** How far it reads what changes; null where it doesn't. */
    @Nullable
    String watermark;

    /** The watermark behind which it read. */
    @Nullable
    String readAfter;

    /** What it proved when it ended; null before, and for runs of earlier versions. */
    @Nullable
    Boolean balanced;

    /** What the ledger adds up to; null, as the next two, in runs of earlier versions. */
    @Convert(converter = RunTotals.Text.class)
    @Nullable
    RunTotals totals;

    @Convert(converter = Json.Tallies.class)
    @Nullable
    Tally tally;

    @Convert(converter = Json.NumberMap.class)
    @Nullable
    Map<String, Long> changedFields;

    /** What its figures add up to; null before it has come to an end, and where the job has none. */
    @Convert(converter = Json.ControlTotals.class)
    @Nullable
    ControlTotalsView controlTotals;

    /** How many records its targets held before it wrote to them; null where nobody counts. */
    @Convert(converter = Json.NumberMap.class)
    @Nullable
    Map<String, Long> recordsBefore;

    /** What becomes of its results: none, wanted, done or failed, and what is to be said of that. */
    String putBack = "none";

    String putBackNote = "";

    /** Whom it tells what has become of it. */
    @Convert(converter = Json.Tells.class)
    List<StoredTell> tells = List.of();

    /** The files that it has delivered. */
    @Convert(converter = Json.IssuedFiles.class)
    List<IssuedFileView> issued = List.of();

    /** Rejects that nobody has dealt with yet. */
    long openRejects;

    /** Rejects of rows that a held run has not written yet. */
    long foreseenRejects;

    /** The rows of the source that it is about, such as {@code 1-10,15}; null for all. */
    @Nullable
    String chosenRows;

    /** The formula of the rows that it is about; null for all. */
    @Nullable
    String chosenWhere;

    /** As many rows it writes before it is held; null for all. */
    @Nullable
    Long firstRows;

    /** Whether a run that writes plans everything before. */
    boolean plannedFirst;

    /** What becomes of the other rows of a group when one is refused. */
    @Enumerated(EnumType.STRING)
    Grouping grouping = Grouping.NONE;

    /** Unexpected failures so far. */
    int defects;

    /** The attempt in whose folder the rows lie that the steps made; null where there are none. */
    @Nullable
    Long shapedEpoch;

    /** How many rows a batch has at most. */
    int batchRows;

    long rowsRead;
    String startedBy;
    Instant createdAt;

    @Nullable
    Instant startedAt;

    @Nullable
    Instant endedAt;

    RunMode runMode() {
        return RunMode.of(mode);
    }

    /** The rows of the source that it is about. */
    Choice choice() {
        return new Choice(
                Optional.ofNullable(chosenRows).map(RowRanges::of),
                Optional.ofNullable(chosenWhere).map(FormulaSource::of),
                resubmits != null);
    }

    /** Whether files are taken and the watermark moves when it has finished. */
    boolean moves() {
        return runMode().moves() && !choice().isPart();
    }

    /** Whether everything is planned before anything is written. */
    boolean isPlannedFirst() {
        return plannedFirst || runMode() == RunMode.HOLD;
    }

    /** Whether what it does is plan, not write. */
    boolean planning() {
        return planning(mode, plannedFirst, releasedAt);
    }

    static boolean planning(String mode, boolean plannedFirst, @Nullable Instant releasedAt) {
        return switch (RunMode.of(mode)) {
            case WRITE -> plannedFirst && releasedAt == null;
            case UNDO -> false;
            case DRY_RUN, REHEARSE -> true;
            case HOLD -> releasedAt == null;
        };
    }

    /** Where its ledger grows. */
    LedgerStage stage() {
        return planning() ? LedgerStage.PLANNED : LedgerStage.WRITTEN;
    }

    /** Its writes with their connections; runs of earlier versions have told of one only, and not where it goes. */
    List<Json.RunWrite> knownWrites() {
        if (writes.isEmpty()) {
            return List.of(new Json.RunWrite(
                    writeName, targetConnection, targetRecords, fields, keyFields, true, List.of(), List.of()));
        }
        return writes.stream()
                .map(write -> write.connection().isEmpty() ? write.at(targetConnection) : write)
                .toList();
    }

    /** Its writes as its ledger knows them. */
    LedgerWrites ledgerWrites() {
        List<Json.RunWrite> known = knownWrites();
        return new LedgerWrites(
                known.stream()
                        .map(write -> new LedgerWrites.Write(
                                write.name(),
                                write.connection(),
                                write.records(),
                                write.keyFields(),
                                write.fields(),
                                write.main(),
                                write.removal()))
                        .toList(),
                grouping);
    }
}
