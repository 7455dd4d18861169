package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.BitSet;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * One line of the ledger.
 *
 * @param number the row of the source, for people
 * @param position what tells the row from others of its batch
 * @param group rows of a group are written together or not at all
 * @param write which write of the job it tells of, from 0; also 0 for a row that no write took
 * @param source the file, and the sheet where there is one
 * @param line the line of the file or the row of the sheet
 * @param intent what was to become of the row when its batch was planned
 * @param passed whether the row came to the writes
 * @param taken whether the write took it
 * @param note why a row was skipped, or the codes of its problems and warnings
 * @param values its record
 */
public record LedgerRow(
        long number,
        long position,
        long group,
        int write,
        String source,
        long line,
        Outcome outcome,
        Outcome intent,
        boolean passed,
        boolean taken,
        String note,
        Values values) {
    private static final @Nullable Object[] NOTHING = {};

    /**
     * The record of a line. Values are in the order of the plan's fields; only changed fields have any.
     *
     * @param key the key's parts; null where there is none
     * @param id what identifies the record in the target; null where there is none
     * @param mark the version of the record that was found; null where none was
     */
    public record Values(
            @Nullable List<Object> key,
            @Nullable Object id,
            @Nullable Object mark,
            BitSet changed,
            @Nullable Object[] before,
            @Nullable Object[] after) {
        /** Of a row that is not written. */
        static Values none(@Nullable List<Object> key) {
            return new Values(key, null, null, new BitSet(), NOTHING, NOTHING);
        }
    }

    /** The key's parts; null where there is none. */
    public @Nullable List<Object> key() {
        return values.key;
    }

    /** The first parts of the key as text, for people; empty where there is none. */
    public List<String> shownKey(int parts) {
        return values.key == null
                ? List.of()
                : values.key.stream()
                        .limit(parts)
                        .map(part -> String.valueOf(dev.nachlauf.core.value.Values.text(part)))
                        .toList();
    }

    /** What identifies the record in the target; null where there is none. */
    public @Nullable Object id() {
        return values.id;
    }

    /** The version of the record that was found; null where none was. */
    public @Nullable Object mark() {
        return values.mark;
    }

    /** The fields that changed; all of a new record. */
    public BitSet changed() {
        return values.changed;
    }

    /** What the changed fields held before. */
    public @Nullable Object[] before() {
        return values.before;
    }

    /** What the changed fields hold now. */
    public @Nullable Object[] after() {
        return values.after;
    }

    /** Whether a record was changed for it. */
    public boolean wrote() {
        return outcome == Outcome.INSERTED || outcome == Outcome.UPDATED || outcome == Outcome.DELETED;
    }

    /** Whether its row came to the write and is not rejected there; it is, when another row of its group is. */
    boolean stands() {
        return passed && taken && outcome != Outcome.REJECTED;
    }

    /** The same line with what identifies its record, where the target has only now said that. */
    LedgerRow identified(@Nullable Object id) {
        if (id == null) {
            return this;
        }
        Values known = new Values(values.key, id, values.mark, values.changed, values.before, values.after);
        return new LedgerRow(number, position, group, write, source, line, outcome, intent, passed, taken, note, known);
    }

    /** The same line with what the target says that the record holds now. */
    LedgerRow stored(@Nullable Object[] stored) {
        @Nullable Object[] after = values.after.clone();
        for (int field = values.changed.nextSetBit(0); field >= 0; field = values.changed.nextSetBit(field + 1)) {
            after[field] = stored[field];
        }
        return with(outcome, new Values(values.key, values.id, values.mark, values.changed, values.before, after));
    }

    /** The same line, where one thing more is to be said of a row that was written. */
    LedgerRow noting(ProblemCode code) {
        boolean said = List.of(note.split(" ")).contains(code.id());
        String more = said ? note : (note + " " + code.id()).strip();
        return new LedgerRow(
                number, position, group, write, source, line, outcome, intent, passed, taken, more, values);
    }

    /** The same line with all that the record held which was removed. */
    LedgerRow removed(@Nullable Object[] held) {
        return with(outcome, new Values(values.key, values.id, values.mark, values.changed, held, NOTHING));
    }

    /** The same line with another outcome and record. */
    LedgerRow with(Outcome other, Values record) {
        return new LedgerRow(number, position, group, write, source, line, other, other, passed, taken, note, record);
    }

    /** The same line, had the write refused the row. */
    LedgerRow refused(List<Problem> problems) {
        return new LedgerRow(
                number,
                position,
                group,
                write,
                source,
                line,
                Outcome.REJECTED,
                intent,
                passed,
                taken,
                codes(problems),
                Values.none(values.key));
    }

    /** The same line for another write, without notes and without a group: its row stands for itself. */
    LedgerRow alone(int other) {
        return new LedgerRow(
                number, position, position, other, source, line, outcome, intent, passed, taken, "", values);
    }

    /** The line of its row, had no write taken it. */
    LedgerRow skipped(int main, String why) {
        return new LedgerRow(
                number,
                position,
                group,
                main,
                source,
                line,
                Outcome.SKIPPED,
                Outcome.SKIPPED,
                false,
                false,
                why,
                Values.none(values.key));
    }

    /** The codes of problems, each once. */
    static String codes(List<Problem> problems) {
        return problems.stream().map(problem -> problem.code().id()).distinct().collect(Collectors.joining(" "));
    }
}
