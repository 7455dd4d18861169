package dev.nachlauf.core.profile;

import dev.nachlauf.core.source.Sample;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.List;

/** Asks the target for keys, a set at a time, and counts what it answers. */
final class KeyLookup {
    private static final int BATCH = 5_000;
    private static final int EXAMPLES = 5;
    private static final String CAPITALS = "upper(trim(…))";

    private final Sample sample;
    private final Target target;
    private final List<String> fields;
    private final List<KeyPair> pairs;
    private final List<Object[]> waiting = new ArrayList<>();
    private final List<String> notFound = new ArrayList<>();
    private final List<String> severalFound = new ArrayList<>();
    private long insert;
    private long update;
    private long ambiguous;
    private long unusable;

    KeyLookup(Target target, List<String> fields, List<KeyPair> pairs, Sample sample) {
        this.sample = sample;
        this.target = target;
        this.fields = fields;
        this.pairs = pairs;
    }

    void key(String[] parts) {
        Object[] key = new Object[parts.length];
        for (int i = 0; i < parts.length; i++) {
            Object value = pairs.get(i).value(sample, parts[i]);
            if (value == null) {
                unusable++;
                return;
            }
            key[i] = value;
        }
        waiting.add(key);
        if (waiting.size() == BATCH) {
            flush();
        }
    }

    void flush() {
        if (waiting.isEmpty()) {
            return;
        }
        int[] matches = Matches.of(target, waiting);
        for (int i = 0; i < waiting.size(); i++) {
            switch (matches[i]) {
                case 0 -> {
                    insert++;
                    example(notFound, waiting.get(i));
                }
                case 1 -> update++;
                default -> {
                    ambiguous++;
                    example(severalFound, waiting.get(i));
                }
            }
        }
        waiting.clear();
    }

    /** What a load by this key would do. */
    KeyAdvice advice(List<String> columns, boolean keptUnique, long rows, KeyFigures figures) {
        return new KeyAdvice(
                columns,
                fields,
                pairs.stream().anyMatch(KeyPair::capitals) ? CAPITALS : "",
                keptUnique,
                rows,
                figures,
                insert,
                update,
                ambiguous,
                unusable,
                notFound,
                severalFound);
    }

    private static void example(List<String> examples, Object[] key) {
        if (examples.size() < EXAMPLES) {
            List<String> parts = new ArrayList<>();
            for (Object part : key) {
                parts.add(Values.shortened(String.valueOf(Values.text(part))));
            }
            examples.add(String.join(" · ", parts));
        }
    }
}
