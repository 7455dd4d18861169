package dev.nachlauf.connectors.database;

import dev.nachlauf.core.system.ReadsRecords.Condition;
import dev.nachlauf.core.system.ReadsRecords.RecordQuery;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** The question for records of a table; every value is a parameter. */
public record RecordsText(QueryText text, Map<String, @Nullable Object> parameters) {
    /**
     * The question.
     *
     * @param table the quoted name of the table
     * @param quoted quotes an identifier
     */
    public static RecordsText of(RecordQuery.Records records, String table, UnaryOperator<String> quoted) {
        String fields = records.fields().isEmpty()
                ? "*"
                : records.fields().stream().map(quoted).collect(Collectors.joining(", "));
        Map<String, @Nullable Object> parameters = new LinkedHashMap<>();
        List<String> conditions = new ArrayList<>();
        for (Condition condition : records.conditions()) {
            String field = quoted.apply(condition.field());
            switch (condition) {
                case Condition.AtLeast from -> {
                    conditions.add(field + " >= ?");
                    parameters.put("p" + parameters.size(), from.value());
                }
                case Condition.Among among -> {
                    conditions.add(
                            field + " IN (?" + ", ?".repeat(among.values().size() - 1) + ")");
                    among.values().forEach(value -> parameters.put("p" + parameters.size(), value));
                }
            }
        }
        String where = conditions.isEmpty() ? "" : " WHERE " + String.join(" AND ", conditions);
        String sql = "SELECT " + fields + " FROM " + table + where;
        return new RecordsText(new QueryText(sql, List.copyOf(parameters.keySet())), parameters);
    }
}
