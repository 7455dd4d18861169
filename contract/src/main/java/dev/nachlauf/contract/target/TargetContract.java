package dev.nachlauf.contract.target;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.FindsAlike;
import dev.nachlauf.core.system.ListsRecords;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.Unit;
import dev.nachlauf.core.system.Target.UnitId;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/**
 * What every target does. A connector's test extends this class, or {@link AtomicTargetContract} or {@link
 * RecordTargetContract} for the kind that it is, and opens a system with an empty record type {@code hut}: {@code hut_code} (text, unique, required), {@code name} (text, required), {@code beds}
 * (integer), {@code price} (decimal of scale 2), {@code opens} (date).
 */
@SuppressWarnings("NullAway.Init") // set before each test
public abstract class TargetContract {
    protected static final List<String> FIELDS = List.of("hut_code", "name", "beds", "price", "opens");
    protected static final TargetUse USE = new TargetUse(List.of("hut_code"), FIELDS);
    protected static final UnitId UNIT = new UnitId("1", 1, 0);
    private static final LocalDate MAY = LocalDate.of(2026, 5, 1);

    protected Writes system;
    protected Target target;

    /** A system whose huts are empty. */
    protected abstract Writes open();

    /** Sets the beds of a hut, as somebody else would. */
    protected abstract void changeElsewhere(String hutCode, long beds);

    /** How many huts there are, asked past the connector. */
    protected abstract long count();

    @BeforeEach
    void openTarget() {
        system = open();
        RecordDescription description = system.describe("hut").orElseThrow();
        target = system.target(description, USE);
    }

    @AfterEach
    void closeTarget() {
        target.close();
        target.close();
        system.close();
    }

    protected static @Nullable Object[] hut(String code, @Nullable Long beds) {
        return new @Nullable Object[] {code, "Hut " + code, beds, new BigDecimal("24.50"), MAY};
    }

    protected static Change.Insert insert(@Nullable Object[] values) {
        return new Change.Insert(null, values);
    }

    protected static Change.Update update(Matches.One record, @Nullable Object[] after, int... fields) {
        BitSet changed = new BitSet();
        @Nullable Object[] before = new @Nullable Object[after.length];
        for (int field : fields) {
            changed.set(field);
            before[field] = record.value(field);
        }
        return new Change.Update(record.id(), record.mark(), before, after, changed);
    }

    protected Matches find(String... codes) {
        return Matches.find(target, List.of(codes), FIELDS.size());
    }

    /** Applies with ids reserved, as the engine does. */
    protected List<Answer> apply(Unit unit, List<? extends Change> changes) {
        return Applied.with(target, unit, changes);
    }

    protected void load(@Nullable Object[]... rows) {
        List<Change> changes = new ArrayList<>();
        for (@Nullable Object[] row : rows) {
            changes.add(insert(row));
        }
        try (Unit unit = target.begin(UNIT)) {
            assertThat(apply(unit, changes)).allMatch(Answer.Done.class::isInstance);
            unit.commit();
        }
    }

    @Test
    void findsNothingWhereNothingIs() {
        assertThat(find("H-001").matches(0)).isZero();
    }

    @Test
    void insertsAndFindsWithEveryValue() {
        load(hut("H-001", 8L), hut("H-002", null));
        Matches stored = find("H-002", "H-003", "H-001");
        assertThat(stored.matches(0)).isEqualTo(1);
        assertThat(stored.matches(1)).isZero();
        Matches.One first = stored.record(2);
        assertThat(first.value(0)).isEqualTo("H-001");
        assertThat(first.value(2)).isEqualTo(8L);
        assertThat(first.value(3)).isEqualTo(new BigDecimal("24.50"));
        assertThat(first.value(4)).isEqualTo(MAY);
        assertThat(stored.record(0).value(2)).isNull();
        assertThat(first.same(3, new BigDecimal("24.5"))).isTrue();
        assertThat(first.same(1, "Hut H-001")).isTrue();
        assertThat(first.same(1, "Hut H-00X")).isFalse();
        assertThat(first.same(2, null)).isFalse();
    }

    /** Where a target can list, nothing is left out, however many records have one key. */
    @Test
    void listsAllRecordsAndThoseOfAKey() {
        assumeTrue(target instanceof ListsRecords, "the target can't list");
        load(hut("H-001", 8L), hut("H-002", 8L), hut("H-003", 8L), hut("H-004", 5L));
        List<Object> all = new ArrayList<>();
        ((ListsRecords) target).list(record -> all.add(record.value(0)));
        assertThat(all).containsExactlyInAnyOrder("H-001", "H-002", "H-003", "H-004");
        assertThat(((ListsRecords) target).count()).isEqualTo(4);

        TargetUse byBeds = new TargetUse(List.of("beds"), List.of("hut_code", "beds"));
        List<Object> some = new ArrayList<>();
        try (Target other = system.target(system.describe("hut").orElseThrow(), byBeds)) {
            RowBlock.Builder rows = new RowBlock.Builder(2, 2);
            List.of(8L, 9L).forEach(beds -> {
                rows.text(null);
                rows.add(beds, other.cells().fields().get(1));
            });
            ((ListsRecords) other).list(rows.build(), new int[] {0, 1}, record -> some.add(record.value(0)));
        }
        assertThat(some).containsExactlyInAnyOrder("H-001", "H-002", "H-003");
    }

    @Test
    void updatesWhatWasFound() {
        load(hut("H-001", 8L));
        Matches stored = find("H-001");
        try (Unit unit = target.begin(UNIT)) {
            List<Answer> answers = apply(unit, List.of(update(stored.record(0), hut("H-001", 12L), 2)));
            assertThat(answers).hasSize(1).allMatch(Answer.Done.class::isInstance);
            assertThat(((Answer.Done) answers.getFirst()).id())
                    .isEqualTo(stored.record(0).id());
            unit.commit();
        }
        assertThat(find("H-001").record(0).value(2)).isEqualTo(12L);
        assertThat(count()).isEqualTo(1);
    }

    @Test
    void deletesWhatWasFound() {
        load(hut("H-001", 8L), hut("H-002", 8L));
        Matches.One record = find("H-001").record(0);
        try (Unit unit = target.begin(UNIT)) {
            Change delete = new Change.Delete(record.id(), record.mark(), hut("H-001", 8L));
            assertThat(apply(unit, List.of(delete))).allMatch(Answer.Done.class::isInstance);
            unit.commit();
        }
        assertThat(count()).isEqualTo(1);
        assertThat(find("H-001").matches(0)).isZero();
    }

    @Test
    void answersMovedWhereSomebodyChangedTheRecordSince() {
        load(hut("H-001", 8L), hut("H-002", 8L));
        Matches stored = find("H-001", "H-002");
        changeElsewhere("H-001", 99);
        try (Unit unit = target.begin(UNIT)) {
            List<Answer> answers = apply(
                    unit,
                    List.of(
                            update(stored.record(0), hut("H-001", 12L), 2),
                            update(stored.record(1), hut("H-002", 12L), 2)));
            assertThat(answers.get(0)).isInstanceOf(Answer.Moved.class);
            assertThat(answers.get(1)).isInstanceOf(Answer.Done.class);
            unit.commit();
        }
        assertThat(find("H-001").record(0).value(2)).isEqualTo(99L);
        assertThat(find("H-002").record(0).value(2)).isEqualTo(12L);
    }

    @Test
    void findsRecordsThatAreAlikeInSomeFields() {
        assumeTrue(target instanceof FindsAlike);
        load(hut("H-001", 8L), hut("H-002", null), hut("H-003", 9L));
        @Nullable Object[] same = hut("H-001", 8L);
        same[0] = "X-1";
        @Nullable Object[] blank = hut("H-002", null);
        blank[0] = "X-2";
        @Nullable Object[] other = hut("H-003", 10L);
        other[0] = "X-3";
        ChangeSet rows = ChangeSet.of(target.cells(), List.of(insert(same), insert(blank), insert(other)));
        List<String> alike = new ArrayList<>();
        int[] butTheKey = {1, 2, 3, 4};
        ((FindsAlike) target)
                .alike(rows, new int[] {0, 1, 2}, butTheKey, (row, record) -> alike.add(row + " " + record.value(0)));
        assertThat(alike).containsExactlyInAnyOrder("0 H-001", "1 H-002");
        alike.clear();
        ((FindsAlike) target)
                .alike(
                        rows,
                        new int[] {1},
                        new int[] {2, 3, 4},
                        (row, record) -> alike.add(row + " " + record.value(0)));
        assertThat(alike).containsExactly("1 H-002");
    }
}
