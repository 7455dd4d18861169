package dev.nachlauf.service.record;

import dev.nachlauf.api.ConfirmationView;
import dev.nachlauf.api.CountedRecords;
import dev.nachlauf.api.FileView;
import dev.nachlauf.api.FoundRecords;
import dev.nachlauf.api.RecordHistoryView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.SetRecord;
import dev.nachlauf.api.VerificationView;
import dev.nachlauf.api.WhyView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.access.Caller;
import dev.nachlauf.service.access.Needs;
import dev.nachlauf.service.access.Role;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.look.Looks;
import dev.nachlauf.service.run.RunViews;
import jakarta.servlet.http.HttpServletRequest;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1")
class RecordController {
    private final RecordHistory history;
    private final RecordWhy why;
    private final RecordQuestions questions;
    private final RecordCorrection correction;
    private final RunVerification verification;
    private final RunConfirmation confirmation;
    private final FileStore files;
    private final RunViews runs;
    private final Looks looks;

    RecordController(
            RecordHistory history,
            RecordWhy why,
            RecordQuestions questions,
            RecordCorrection correction,
            RunVerification verification,
            RunConfirmation confirmation,
            FileStore files,
            RunViews runs,
            Looks looks) {
        this.history = history;
        this.why = why;
        this.questions = questions;
        this.correction = correction;
        this.verification = verification;
        this.confirmation = confirmation;
        this.files = files;
        this.runs = runs;
        this.looks = looks;
    }

    /** Which runs have changed a record, and how, newest first; the key is given field by field, as field=value. */
    @GetMapping("/connections/{name}/records/{records}/history")
    RecordHistoryView history(
            @PathVariable String name,
            @PathVariable String records,
            @RequestParam List<String> key,
            @RequestParam(required = false) @Nullable String cursor,
            @RequestParam(defaultValue = "50") int limit,
            HttpServletRequest http) {
        Map<String, String> parts = parts(key);
        return looks.result(http, "history of a record", name, () -> history.of(name, records, parts, cursor, limit));
    }

    /**
     * Why a field of a record holds what it holds: the way of its value from the map of the run that has written it back to
     * the cells of the source; the key is given field by field, as field=value.
     */
    @GetMapping("/connections/{name}/records/{records}/why")
    WhyView why(
            @PathVariable String name,
            @PathVariable String records,
            @RequestParam List<String> key,
            @RequestParam String field,
            HttpServletRequest http) {
        Map<String, String> parts = parts(key);
        return looks.result(http, "way of a value", name, () -> why.of(name, records, parts, field));
    }

    /**
     * Records that meet a formula.
     *
     * @param where a formula over the fields; without one all records are meant
     * @param fields those that are shown; all without it
     * @param sort fields by which they are put in order, with {@code desc} behind them for the greatest first
     */
    @GetMapping("/connections/{name}/records/{records}/found")
    FoundRecords find(
            @PathVariable String name,
            @PathVariable String records,
            @RequestParam(required = false) @Nullable String where,
            @RequestParam(defaultValue = "") List<String> fields,
            @RequestParam(defaultValue = "") List<String> sort,
            @RequestParam(defaultValue = "20") int limit,
            HttpServletRequest http) {
        return looks.result(
                http, "search for records", name, () -> questions.find(name, records, where, fields, sort, limit));
    }

    /** How many records meet a formula, also by the values of some fields. */
    @GetMapping("/connections/{name}/records/{records}/count")
    CountedRecords count(
            @PathVariable String name,
            @PathVariable String records,
            @RequestParam(required = false) @Nullable String where,
            @RequestParam(defaultValue = "") List<String> by,
            HttpServletRequest http) {
        return looks.result(http, "count of records", name, () -> questions.count(name, records, where, by));
    }

    /** Creates or corrects one record by a run of its own, with the checks of any other. */
    @PostMapping("/connections/{name}/records/{records}/set")
    @Needs(value = Role.BUILD, deed = "set record")
    @ResponseStatus(HttpStatus.CREATED)
    RunView set(
            @PathVariable String name,
            @PathVariable String records,
            @RequestBody SetRecord request,
            HttpServletRequest http) {
        return correction.start(name, records, request, Caller.of(http));
    }

    private static Map<String, String> parts(List<String> key) {
        Map<String, String> parts = new LinkedHashMap<>();
        key.forEach(part -> add(part, parts));
        return parts;
    }

    private static void add(String part, Map<String, String> parts) {
        int equals = part.indexOf('=');
        if (equals < 1) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.REQUEST_MALFORMED,
                    "“" + part + "” is not a part of a key.",
                    "Give it as field=value, such as hut_code=H-001."));
        }
        parts.put(part.substring(0, equals), part.substring(equals + 1));
    }

    /** Compares what a run has written with what is there now: all of it, or a sample. */
    @PostMapping("/runs/{id}/verify")
    @Needs(Role.LOOK)
    VerificationView verify(
            @PathVariable long id,
            @RequestParam(required = false) @Nullable Long sample,
            @RequestParam(defaultValue = "1") long seed,
            HttpServletRequest http) {
        String place = runs.show(id).targetConnection();
        OptionalLong most = sample == null ? OptionalLong.empty() : OptionalLong.of(sample);
        return looks.result(http, "comparison with a run", place, () -> verification.verify(id, most, seed));
    }

    /**
     * Compares what a run has issued with an export of the system that was to take it, which was uploaded before; {@code
     * key} names the fields by which rows are found, where the job doesn't.
     */
    @PostMapping("/runs/{id}/confirm")
    @Needs(value = Role.RUN, deed = "compare with an export")
    ConfirmationView confirm(
            @PathVariable long id,
            @RequestParam String file,
            @RequestParam(defaultValue = "export") String name,
            @RequestParam(defaultValue = "") List<String> key,
            HttpServletRequest http) {
        String place = runs.show(id).targetConnection();
        String by = Caller.of(http);
        FileView export = files.find(file, name);
        return looks.result(http, "comparison with an export", place, () -> confirmation.confirm(id, export, key, by));
    }
}
