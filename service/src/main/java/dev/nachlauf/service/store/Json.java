package dev.nachlauf.service.store;

import dev.nachlauf.api.ControlTotalsView;
import dev.nachlauf.api.IssuedFileView;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.record.SourceColumn;
import jakarta.persistence.AttributeConverter;
import jakarta.persistence.Converter;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** Values that are kept as JSON text. */
public final class Json {
    /** Values of earlier versions lack what came later: a number is 0 then. */
    private static final JsonMapper MAPPER = JsonMapper.builder()
            .disable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .build();

    private Json() {}

    /** A value as text. */
    public static String write(Object value) {
        return MAPPER.writeValueAsString(value);
    }

    /** Words by name. */
    public static Map<String, String> wordMap(String text) {
        return read(text, new TypeReference<>() {});
    }

    /** Words in their order. */
    public static List<String> words(String text) {
        return read(text, new TypeReference<>() {});
    }

    /** Lists of words by name. */
    public static Map<String, List<String>> wordLists(String text) {
        return read(text, new TypeReference<>() {});
    }

    /** Numbers by name. */
    public static Map<String, Long> numberMap(String text) {
        return read(text, new TypeReference<>() {});
    }

    /** Columns of a source as text. */
    public static String writeColumns(List<SourceColumn> columns) {
        return write(columns.stream().map(StoredColumn::of).toList());
    }

    /** Findings as text. */
    public static String writeProblems(List<ProblemView> problems) {
        return write(problems.stream().map(StoredProblem::of).toList());
    }

    /** Steps and further writes as text. */
    public static String writeTally(Tally tally) {
        return write(StoredTally.of(tally));
    }

    /** Steps and further writes. */
    public static Tally readTally(String text) {
        return read(text, StoredTally.class).tally();
    }

    /** A value of a type whose only purpose is to be kept. */
    public static <T> T read(String text, Class<T> type) {
        return MAPPER.readValue(text, type);
    }

    private static <T> T read(String text, TypeReference<T> type) {
        return MAPPER.readValue(text, type);
    }

    /** Words, some of which may be null. */
    @Converter
    public static final class Words implements AttributeConverter<List<@Nullable String>, String> {
        @Override
        public @Nullable String convertToDatabaseColumn(@Nullable List<@Nullable String> words) {
            return words == null ? null : write(words);
        }

        @Override
        public @Nullable List<@Nullable String> convertToEntityAttribute(@Nullable String text) {
            return text == null ? null : read(text, new TypeReference<>() {});
        }
    }

    /** Words by name. */
    @Converter
    public static final class WordMap implements AttributeConverter<Map<String, String>, String> {
        @Override
        public @Nullable String convertToDatabaseColumn(@Nullable Map<String, String> map) {
            return map == null ? null : write(map);
        }

        @Override
        public @Nullable Map<String, String> convertToEntityAttribute(@Nullable String text) {
            return text == null ? null : wordMap(text);
        }
    }

    /** Numbers by name. */
    @Converter
    public static final class NumberMap implements AttributeConverter<Map<String, Long>, String> {
        @Override
        public @Nullable String convertToDatabaseColumn(@Nullable Map<String, Long> map) {
            return map == null ? null : write(map);
        }

        @Override
        public @Nullable Map<String, Long> convertToEntityAttribute(@Nullable String text) {
            return text == null ? null : numberMap(text);
        }
    }

    /** Columns of a source. */
    @Converter
    public static final class Columns implements AttributeConverter<List<SourceColumn>, String> {
        @Override
        public String convertToDatabaseColumn(List<SourceColumn> columns) {
            return writeColumns(columns);
        }

        @Override
        public List<SourceColumn> convertToEntityAttribute(String text) {
            List<StoredColumn> stored = read(text, new TypeReference<>() {});
            return stored.stream().map(StoredColumn::column).toList();
        }
    }

    /** Steps and further writes of a batch. */
    @Converter
    public static final class Tallies implements AttributeConverter<Tally, String> {
        @Override
        public String convertToDatabaseColumn(Tally tally) {
            return writeTally(tally);
        }

        @Override
        public @Nullable Tally convertToEntityAttribute(@Nullable String text) {
            return text == null ? null : readTally(text);
        }
    }

    /** Files that were handed over, as JSON. */
    @Converter
    public static final class IssuedFiles implements AttributeConverter<List<IssuedFileView>, String> {
        @Override
        public String convertToDatabaseColumn(List<IssuedFileView> files) {
            return write(files);
        }

        @Override
        public List<IssuedFileView> convertToEntityAttribute(String text) {
            return List.of(read(text, IssuedFileView[].class));
        }
    }

    /** Whom a run tells what has become of it. */
    @Converter
    public static final class Tells implements AttributeConverter<List<StoredTell>, String> {
        @Override
        public String convertToDatabaseColumn(List<StoredTell> tells) {
            return write(tells);
        }

        @Override
        public List<StoredTell> convertToEntityAttribute(String text) {
            return List.of(read(text, StoredTell[].class));
        }
    }

    /** Figures that prove a run, as JSON. */
    @Converter
    public static final class ControlTotals implements AttributeConverter<ControlTotalsView, String> {
        @Override
        public @Nullable String convertToDatabaseColumn(@Nullable ControlTotalsView totals) {
            return totals == null ? null : write(totals);
        }

        @Override
        public @Nullable ControlTotalsView convertToEntityAttribute(@Nullable String text) {
            return text == null ? null : read(text, ControlTotalsView.class);
        }
    }

    /**
     * A write of a run and its fields.
     *
     * @param ids the fields that may hold the id of a record which the run makes
     * @param removal whether its records are those that the source no longer has
     */
    public record RunWrite(
            String name,
            String connection,
            String records,
            List<String> fields,
            List<String> keyFields,
            boolean main,
            List<String> sensitive,
            List<String> ids,
            boolean removal) {
        /** Runs of an earlier time knew no marks and no ids, and one connection only. */
        public RunWrite {
            connection = connection == null ? "" : connection;
            sensitive = sensitive == null ? List.of() : List.copyOf(sensitive);
            ids = ids == null ? List.of() : List.copyOf(ids);
        }

        /** A write that takes rows of the source. */
        public RunWrite(
                String name,
                String connection,
                String records,
                List<String> fields,
                List<String> keyFields,
                boolean main,
                List<String> sensitive,
                List<String> ids) {
            this(name, connection, records, fields, keyFields, main, sensitive, ids, false);
        }

        /** The same write in a connection. */
        public RunWrite at(String other) {
            return new RunWrite(name, other, records, fields, keyFields, main, sensitive, ids, removal);
        }
    }

    /** Writes of a run. */
    @Converter
    public static final class RunWrites implements AttributeConverter<List<RunWrite>, String> {
        @Override
        public String convertToDatabaseColumn(List<RunWrite> writes) {
            return write(writes);
        }

        @Override
        public List<RunWrite> convertToEntityAttribute(String text) {
            return read(text, new TypeReference<>() {});
        }
    }

    /** Findings. */
    @Converter
    public static final class Problems implements AttributeConverter<List<ProblemView>, String> {
        @Override
        public String convertToDatabaseColumn(List<ProblemView> problems) {
            return writeProblems(problems);
        }

        @Override
        public List<ProblemView> convertToEntityAttribute(String text) {
            List<StoredProblem> stored = read(text, new TypeReference<>() {});
            return stored.stream().map(StoredProblem::view).toList();
        }
    }
}
