package dev.nachlauf.acceptance.torment;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import tools.jackson.databind.JsonNode;

/** Holds what a run says of itself against what is there: every record, every line of the ledger, every reject. */
final class Comparison {
    private static final int SHOWN = 12;

    private final List<String> differences = new ArrayList<>();
    private int found;

    private void difference(String text) {
        if (found++ < SHOWN) {
            differences.add(text);
        }
    }

    List<String> differences() {
        return found > SHOWN ? concat(differences, "and " + (found - SHOWN) + " more") : differences;
    }

    private static List<String> concat(List<String> list, String more) {
        List<String> all = new ArrayList<>(list);
        all.add(more);
        return all;
    }

    /**
     * What the ledger says became of each key against the table before and after.
     *
     * @param strangers keys that others may have added
     */
    void table(String write, List<JsonNode> ledger, Records before, Records after, Set<String> strangers) {
        Set<String> written = new HashSet<>();
        Set<String> inDoubt = new HashSet<>();
        for (JsonNode line : ledger) {
            String by = line.get("write").asString();
            boolean tagged = by.equals(write + " (by tag)");
            if ((by.equals(write) || by.equals(write + " (gone)") || tagged)
                    && !line.get("key").isEmpty()) {
                String key = line.get("key").get(0).asString();
                String code = tagged ? RandomJob.codeOf(key) : key;
                switch (line.get("outcome").asString()) {
                    case "inserted", "updated" -> {
                        if (!written.add(code)) {
                            difference(write + " " + code + " was written twice by the ledger");
                        }
                        written(write, code, line, before, after, strangers);
                    }
                    case "deleted" -> {
                        if (!written.add(code)) {
                            difference(write + " " + code + " was written twice by the ledger");
                        }
                        removed(write, code, before, after);
                    }
                    case "unknown" -> inDoubt.add(code);
                    default -> {
                        // what the record must be then is said below
                    }
                }
            }
        }
        for (String code : union(before.byKey().keySet(), after.byKey().keySet())) {
            boolean free = written.contains(code) || inDoubt.contains(code) || strangers.contains(code);
            if (!free && !same(before.byKey().get(code), after.byKey().get(code))) {
                difference(write + " " + code + " was changed, but the ledger says nothing of it: "
                        + before.byKey().get(code) + " → " + after.byKey().get(code));
            }
        }
    }

    private void removed(String write, String code, Records before, Records after) {
        if (after.byKey().containsKey(code) || !before.byKey().containsKey(code)) {
            difference(write + " " + code + " is told deleted; before there was "
                    + before.byKey().get(code) + ", now "
                    + after.byKey().get(code));
        }
    }

    private void written(
            String write, String code, JsonNode line, Records before, Records after, Set<String> strangers) {
        Map<String, String> record = after.byKey().get(code);
        if (record == null) {
            difference(write + " " + code + " is told " + line.get("outcome").asString() + " and isn't there");
            return;
        }
        boolean inserted = line.get("outcome").asString().equals("inserted");
        Map<String, String> was = before.byKey().get(code);
        if (!strangers.contains(code) && inserted != (was == null)) {
            difference(write + " " + code + " is told " + line.get("outcome").asString() + ", but before there was "
                    + was);
        }
        for (JsonNode change : line.get("changes")) {
            String field = change.get("field").asString();
            String to = change.hasNonNull("after") ? change.get("after").asString() : null;
            if (record.containsKey(field) && !Objects.equals(record.get(field), to)) {
                difference(write + " " + code + "." + field + " is told to be " + to + " and is " + record.get(field));
            }
            String from = change.hasNonNull("before") ? change.get("before").asString() : null;
            if (was != null
                    && was.containsKey(field)
                    && record.containsKey(field)
                    && !strangers.contains(code)
                    && !Objects.equals(was.get(field), from)) {
                difference(write + " " + code + "." + field + " is told to have been " + from + " and was "
                        + was.get(field));
            }
        }
    }

    /** Only fields that are still there count. */
    private static boolean same(Map<String, String> before, Map<String, String> after) {
        return before == null || after == null
                ? before == after
                : after.entrySet().stream()
                        .allMatch(field -> Objects.equals(field.getValue(), before.get(field.getKey())));
    }

    private static Set<String> union(Set<String> one, Set<String> other) {
        Set<String> all = new HashSet<>(one);
        all.addAll(other);
        return all;
    }

    /** The balance by itself, and against the ledger. */
    void balance(JsonNode run, List<JsonNode> ledger, long rows, boolean simple) {
        JsonNode balance = run.get("balance");
        long read = balance.get("read").asLong();
        long sum = balance.get("skipped").asLong()
                + balance.get("rejected").asLong()
                + balance.get("passed").asLong()
                + balance.get("unreached").asLong()
                + balance.get("unknown").asLong();
        if (read != sum || !balance.get("balanced").asBoolean()) {
            difference("the balance does not hold: " + balance);
        }
        if (run.get("state").asString().equals("finished")
                && (read != rows
                        || balance.get("unreached").asLong()
                                        + balance.get("unknown").asLong()
                                > 0)) {
            difference("finished with " + rows + " rows in the source and " + balance);
        }
        for (JsonNode write : balance.get("writes")) {
            Map<String, Long> counted = new TreeMap<>();
            for (JsonNode line : ledger) {
                if (line.get("write").asString().equals(write.get("write").asString())) {
                    counted.merge(line.get("outcome").asString(), 1L, Long::sum);
                }
            }
            for (String outcome : List.of("inserted", "updated", "unchanged")) {
                if (write.get(outcome).asLong() != counted.getOrDefault(outcome, 0L)) {
                    difference(write.get("write").asString() + " counts "
                            + write.get(outcome).asLong() + " " + outcome + ", the ledger has "
                            + counted.getOrDefault(outcome, 0L));
                }
            }
        }
        if (simple) {
            // what the source no longer has is no row of it
            long lines = ledger.stream()
                    .filter(line -> line.get("row").asLong() > 0
                            && !line.get("outcome").asString().equals("unknown"))
                    .count();
            if (lines
                            + balance.get("unreached").asLong()
                            + balance.get("unknown").asLong()
                    != read) {
                difference("the ledger has " + lines + " lines for " + balance);
            }
        }
    }

    /** Each rejected row of the ledger has one reject, and no other row has. */
    void rejects(List<JsonNode> ledger, List<JsonNode> rejects) {
        Set<Long> told = new HashSet<>();
        ledger.stream()
                .filter(line -> line.get("outcome").asString().equals("rejected"))
                .forEach(line -> told.add(line.get("row").asLong()));
        Set<Long> kept = new HashSet<>();
        for (JsonNode reject : rejects) {
            if (!kept.add(reject.get("row").asLong())) {
                difference("row " + reject.get("row").asLong() + " has two rejects");
            }
        }
        if (!told.equals(kept)) {
            difference("rejected by the ledger: " + told.size() + " rows, with rejects: " + kept.size());
        }
    }

    /**
     * Rejects before and after their rows were sent again in vain.
     *
     * @param all whether each row has been sent
     */
    void sameRejects(List<JsonNode> before, List<JsonNode> after, boolean all) {
        Map<Long, JsonNode> now = new HashMap<>();
        after.forEach(reject -> now.put(reject.get("id").asLong(), reject));
        for (JsonNode reject : before) {
            JsonNode found = now.remove(reject.get("id").asLong());
            int attempts = found == null ? 0 : found.get("attempts").asInt();
            boolean sent = reject.get("row").asLong() > 0;
            if (found == null
                    || !found.get("state").asString().equals("open")
                    || found.hasNonNull("sentBy")
                    || all && attempts != (sent ? 2 : 1)) {
                difference("reject " + reject + " became " + found);
            }
        }
        if (!now.isEmpty()) {
            difference("more rejects than before: " + now.values());
        }
    }

    /** What became of each row against the run that nobody disturbed. */
    void twin(List<JsonNode> ledger, List<JsonNode> twin) {
        Map<String, String> outcomes = outcomes(ledger);
        Map<String, String> expected = outcomes(twin);
        expected.forEach((row, outcome) -> {
            if (!outcome.equals(outcomes.get(row))) {
                difference("row " + row + " is " + outcomes.get(row) + ", undisturbed it was " + outcome);
            }
        });
        if (outcomes.size() != expected.size()) {
            difference("the ledger has " + outcomes.size() + " lines, undisturbed it had " + expected.size());
        }
    }

    private static Map<String, String> outcomes(List<JsonNode> ledger) {
        Map<String, String> outcomes = new HashMap<>();
        ledger.forEach(line -> outcomes.put(
                line.get("row").asLong() + " " + line.get("write").asString() + " " + line.get("key"),
                line.get("outcome").asString() + " " + line.get("note").asString() + " " + line.get("changes")));
        return outcomes;
    }

    /** Two tables that have to be alike. */
    void alike(Records one, Records other) {
        if (!one.byKey().equals(other.byKey())) {
            for (String code : union(one.byKey().keySet(), other.byKey().keySet())) {
                if (!Objects.equals(one.byKey().get(code), other.byKey().get(code))) {
                    difference(code + " is " + one.byKey().get(code) + ", undisturbed it is "
                            + other.byKey().get(code));
                }
            }
        }
    }

    void require(boolean truth, String otherwise) {
        if (!truth) {
            difference(otherwise);
        }
    }
}
