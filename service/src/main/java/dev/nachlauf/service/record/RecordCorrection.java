package dev.nachlauf.service.record;

import dev.nachlauf.api.FileView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.SetRecord;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.HoldsRecords;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.run.Runs;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/**
 * Creates or corrects a record by hand: a job of one row, which is checked, written, accounted for and taken back like any
 * other. The job is kept under a name of its own for each record type; its versions say which fields were set.
 */
@Component
class RecordCorrection {
    private static final String FILE = "by-hand.csv";
    private static final int LONGEST_NAME = 64;

    private final Connections connections;
    private final Jobs jobs;
    private final FileStore files;
    private final Runs runs;

    RecordCorrection(Connections connections, Jobs jobs, FileStore files, Runs runs) {
        this.connections = connections;
        this.jobs = jobs;
        this.files = files;
        this.runs = runs;
    }

    /** Starts the run. */
    RunView start(String connection, String records, SetRecord asked, String by) {
        if (asked.key().isEmpty() || asked.values().isEmpty()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.REQUEST_MALFORMED,
                    "A record is set by its key and the values of other fields.",
                    "Name the key with --key, and each value with --set."));
        }
        Map<String, String> fields = new LinkedHashMap<>(asked.key());
        asked.values().forEach((field, value) -> {
            if (fields.putIfAbsent(field, value) != null) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.REQUEST_MALFORMED,
                        "The field " + field + " is given as a part of the key and as a value.",
                        "A key stays as it is; leave one of them out."));
            }
        });
        String job = name(connection, records);
        Jobs.Version version = saved(job, document(job, connection, records, asked, fields), by);
        FileView file = kept(csv(fields));
        // somebody else may save another version meanwhile
        return runs.start(new StartRun(job, file.hash(), FILE, Map.of(), null), version, by);
    }

    /** Errors are what the caller has given; what else a check finds says nothing to somebody who never sees the job. */
    private Jobs.Version saved(String job, String document, String by) {
        try {
            return jobs.save(job + ".yaml", document, false, by);
        } catch (CannotGoOn e) {
            throw new CannotGoOn(e.problems().stream()
                    .filter(problem -> !problem.code().isWarning())
                    .map(problem -> Problem.of(problem.code(), problem.sentence(), problem.remedy()))
                    .toList());
        }
    }

    /** A record can be created where all that is required is given; else one that is there can be corrected. */
    private String action(String connection, String records, Set<String> given) {
        try (OpenSystem system = connections.opened(connection)) {
            boolean whole = system instanceof HoldsRecords holds
                    && connections
                            .describe(connection, holds, records)
                            .filter(description -> description.fields().stream()
                                    .filter(FieldDescription::required)
                                    .allMatch(field -> given.contains(field.name())))
                            .isPresent();
            return whole ? "upsert" : "update";
        }
    }

    /** Small letters, digits and hyphens. */
    private static String name(String connection, String records) {
        String name = ("by-hand-" + connection + "-" + records)
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", "-")
                .replaceAll("-$", "");
        return name.substring(0, Math.min(name.length(), LONGEST_NAME));
    }

    private String document(
            String job, String connection, String records, SetRecord asked, Map<String, String> fields) {
        String declared = fields.keySet().stream()
                .map(field -> "    " + quoted(field) + ": { is: text }\n")
                .collect(Collectors.joining());
        String map = fields.keySet().stream()
                .map(field -> "    " + quoted(field) + ": " + quoted(formula(field)) + "\n")
                .collect(Collectors.joining());
        String key = asked.key().keySet().stream().map(RecordCorrection::quoted).collect(Collectors.joining(", "));
        return """
                nachlauf: 1
                job: %s
                title: Records that are set by hand
                notes: Made by record set; each version sets other fields.
                near-duplicates: allow
                unlike-last-time: allow
                read:
                  upload: %s
                  format: { as: delimited, delimiter: ",", encoding: UTF-8 }
                  fields:
                %swrite:
                  connection: %s
                  records: %s
                  action: %s
                  key: [%s]
                  map:
                %s""".formatted(
                        job,
                        FILE,
                        declared,
                        quoted(connection),
                        quoted(records),
                        action(connection, records, fields.keySet()),
                        key,
                        map);
    }

    /** A YAML scalar that is this text, whatever it holds. */
    private static String quoted(String text) {
        return "'" + text.replace("'", "''") + "'";
    }

    /** The formula that is the field of this name. */
    private static String formula(String field) {
        return '"' + field.replace("\"", "\"\"") + '"';
    }

    /** One row below its header, as RFC 4180 writes it. */
    private static String csv(Map<String, String> fields) {
        return line(fields.keySet()) + line(fields.values());
    }

    private static String line(Iterable<String> cells) {
        StringBuilder line = new StringBuilder();
        for (String cell : cells) {
            line.append(line.isEmpty() ? "" : ",")
                    .append('"')
                    .append(cell.replace("\"", "\"\""))
                    .append('"');
        }
        return line.append("\r\n").toString();
    }

    private FileView kept(String text) {
        try {
            return files.keep(FILE, new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
