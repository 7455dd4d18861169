package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.Requirement.Among;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.value.Kind;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * What a write that replaces does with records that no row of the source has.
 *
 * @param fields the fields of such a record that the run keeps, those of the key among them
 * @param key the names of the key's fields
 * @param scope over {@code fields}, one slot for each; only records for which it is true go. Empty for all
 * @param within fields in which a record must agree with a row of the load to go; empty where it need not
 * @param deactivated what a record holds from then on; empty where it is removed
 * @param mayBeEmpty whether a source without rows removes all of them
 */
public record Removal(
        List<FieldDescription> fields,
        List<String> key,
        Optional<Formula> scope,
        List<String> within,
        List<Set> deactivated,
        boolean mayBeEmpty) {
    public Removal {
        fields = List.copyOf(fields);
        key = List.copyOf(key);
        within = List.copyOf(within);
        deactivated = List.copyOf(deactivated);
    }

    /** A field, by its place, and what it holds from then on. */
    public record Set(int field, @Nullable Object value) {}

    /** The name of its lines in the ledger. */
    public static String name(String write) {
        return write + " (gone)";
    }

    /** The names of the fields. */
    public List<String> fieldNames() {
        return fields.stream().map(FieldDescription::name).toList();
    }

    /** The fields whose values are kept from those who look. */
    public List<String> sensitiveFields() {
        return fields.stream()
                .filter(FieldDescription::sensitive)
                .map(FieldDescription::name)
                .toList();
    }

    /** How the target is used to let records go. */
    public TargetUse use() {
        return new TargetUse(key, fieldNames());
    }

    /**
     * How it is used to list those that could go: all, or by what they have in common with the rows or with each other.
     *
     * @param common one of whose values each of them has; empty where nothing of the kind is known
     */
    public TargetUse listing(Optional<Among> common) {
        return within.isEmpty()
                ? common.map(field ->
                                use().foundBy(List.of(fields.get(field.slot()).name())))
                        .orElseGet(this::use)
                : use().foundBy(within);
    }

    /** The field of which the scope allows the fewest values, where a system may look for them; else all is to be listed. */
    public Optional<Among> common(Predicate<FieldDescription> findable) {
        return scope.stream()
                .flatMap(formula -> formula.requirements().stream())
                .filter(Among.class::isInstance)
                .map(Among.class::cast)
                .filter(among -> findable.test(fields.get(among.slot())))
                .filter(among -> isOfKind(among, fields.get(among.slot()).kind()))
                .min(Comparator.comparing(among -> among.values().size()));
    }

    /** An integer may be compared with a decimal, which is no value of it. */
    private static boolean isOfKind(Among among, Kind kind) {
        return kind != Kind.INTEGER || among.values().stream().allMatch(Long.class::isInstance);
    }
}
