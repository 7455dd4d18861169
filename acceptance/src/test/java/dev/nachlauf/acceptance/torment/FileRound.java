package dev.nachlauf.acceptance.torment;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Stream;
import tools.jackson.databind.JsonNode;

/**
 * A job that writes to files: it issues one, or some in parts, or changes rows of one that is there. A file is delivered
 * whole or not at all, so what the disturbed run leaves is to the byte what the undisturbed one left, or what was there.
 */
final class FileRound implements Round {
    /** What can happen where there is no database to write to. */
    private static final Trouble[] POSSIBLE = {
        Trouble.SERVICE_KILLED,
        Trouble.BOTH_SERVICES_KILLED,
        Trouble.SERVICE_ENDED,
        Trouble.SERVICE_SLEEPS,
        Trouble.OWN_DATABASE_STOPPED_HARD,
        Trouble.DISK_FULL,
        Trouble.STOP_ASKED
    };

    private static final List<String> ACTIONS = List.of("issue", "issue", "upsert", "insert", "update");

    private final Stage stage;
    private final RandomJob job;
    private final Random random;
    private final List<Trouble> troubles;
    private final RoundRuns runs;
    private final String action;
    private final String ending;
    private final boolean inParts;
    private final boolean held;
    private final boolean foreseen;
    private final boolean undone;
    private String state = "";

    FileRound(Stage stage, RandomJob job) {
        this.stage = stage;
        this.job = job;
        this.random = new Random(job.seed ^ 0x5EED);
        this.troubles = Trouble.some(random, POSSIBLE);
        this.runs = new RoundRuns(stage, job, random, troubles);
        this.action = ACTIONS.get(random.nextInt(ACTIONS.size()));
        this.ending = random.nextInt(3) == 0 ? "jsonl" : "csv";
        this.inParts = isIssued() && random.nextInt(3) == 0;
        this.held = random.nextInt(3) == 0;
        this.foreseen = random.nextInt(3) == 0 && troubles.stream().allMatch(Trouble::isSurvived);
        this.undone = !isIssued() && random.nextBoolean();
    }

    private boolean isIssued() {
        return action.equals("issue");
    }

    @Override
    public List<Trouble> troubles() {
        return troubles;
    }

    @Override
    public String state() {
        return state;
    }

    @Override
    public long inDoubt() {
        return runs.inDoubt();
    }

    @Override
    public String toString() {
        return action + " of " + job.rows + " rows to a " + ending + " file" + (inParts ? ", in parts" : "")
                + (job.chosen.isEmpty() ? "" : ", some" + job.chosen) + ", " + job.steps.size() + " steps"
                + (job.limit.isEmpty() ? "" : ", " + job.limit.strip()) + (foreseen ? ", dry-run before" : "")
                + (held ? ", held" : "") + (undone ? ", undone" : "") + "; " + troubles + "; " + state;
    }

    @Override
    public List<String> run() {
        String upload = job.records ? null : runs.upload();
        long rows = job.records ? SourceRecords.fill(stage.own, job) : job.rows;
        for (boolean twin : new boolean[] {true, false}) {
            if (!isIssued()) {
                stage.write(name(twin) + "." + ending, standing());
            }
            runs.save(yaml(twin));
        }
        Map<String, String> before = files(false);
        long began = System.nanoTime();
        long twin = RoundRuns.started(runs.tryStart(true, upload, "write", ""));
        JsonNode undisturbed = runs.ended(twin, true);
        long took = (System.nanoTime() - began) / 1_000_000;
        Comparison comparison = new Comparison();
        comparison.require(undisturbed.get("state").asString().equals("finished"), "undisturbed: " + undisturbed);
        if (foreseen) {
            long plan = RoundRuns.started(runs.tryStart(false, upload, "dry-run", ""));
            runs.trouble(plan, took);
            comparison.require(
                    runs.ended(plan, false).get("state").asString().equals("finished"), "the dry run isn't finished");
            comparison.require(files(false).equals(before), "a dry run has changed files");
        }
        String mode = held ? "hold" : "write";
        long run = random.nextInt(4) == 0
                ? runs.startTwice(() -> runs.tryStart(false, upload, mode, ""))
                : RoundRuns.started(runs.tryStart(false, upload, mode, ""));
        runs.trouble(run, took);
        state = runs.ended(run, false).get("state").asString();
        compare(comparison, run, twin, before, rows);
        if (undone && state.equals("finished") && comparison.differences().isEmpty()) {
            undo(comparison, run, took, before);
        }
        return comparison.differences();
    }

    private void compare(Comparison comparison, long id, long twin, Map<String, String> before, long rows) {
        boolean finished = state.equals("finished");
        JsonNode run = stage.get("/runs/" + id);
        List<JsonNode> ledger = stage.all("/runs/" + id + "/ledger");
        comparison.balance(run, ledger, rows, !job.combines());
        comparison.require(
                finished || state.equals("discarded") || !troubles.stream().allMatch(Trouble::isSurvived),
                "the run is " + state + ": " + run.get("reasons"));
        comparison.require(
                files(false).equals(finished ? files(true) : before),
                state + ", and its files are " + shortly(files(false)) + " instead of "
                        + shortly(finished ? files(true) : before));
        if (finished) {
            comparison.rejects(ledger, stage.all("/rejects?run=" + id));
            comparison.twin(ledger, stage.all("/runs/" + twin + "/ledger"));
        }
    }

    /** Takes the run's rows out of the file again, with trouble. */
    private void undo(Comparison comparison, long run, long took, Map<String, String> before) {
        Stage.Answer started = stage.post("/runs/" + run + "/undo", "{}");
        boolean same = files(false).equals(before);
        comparison.require(started.status() == 201 || same, "the undo is refused: " + started.body());
        if (started.status() != 201) {
            return;
        }
        long undo = RoundRuns.started(started);
        runs.trouble(undo, took);
        JsonNode ended = runs.ended(undo, false);
        boolean back = ended.get("state").asString().equals("finished");
        comparison.require(
                back || !troubles.stream().allMatch(Trouble::isSurvived),
                "the undo is " + ended.get("state") + ": " + ended.get("reasons"));
        comparison.require(!back || files(false).equals(before), "undone, its files are " + shortly(files(false)));
    }

    private String name(boolean twin) {
        return job.table(twin);
    }

    /** What is there before, with a column that the job knows nothing of. */
    private String standing() {
        StringBuilder text = new StringBuilder(ending.equals("csv") ? "code,name,beds,theirs\n" : "");
        for (int n = 3; n <= job.rows; n += 3) {
            text.append(
                    ending.equals("csv")
                            ? RandomJob.code(n) + ",Hut " + n + "," + n % 150 + ",x" + n + "\n"
                            : "{\"code\":\"" + RandomJob.code(n) + "\",\"name\":\"Hut " + n + "\",\"beds\":" + n % 150
                                    + ",\"theirs\":\"x" + n + "\"}\n");
        }
        return text.toString();
    }

    private String yaml(boolean twin) {
        return job.beginning(twin) + "write:\n  - name: list\n    connection: outbox\n    file: " + name(twin)
                + (inParts ? "-${part}" : "") + "." + ending + "\n    action: " + action + "\n    key: [code]\n"
                + (inParts ? "    parts-of: " + job.rows / 3 + "\n" : "")
                + "    map: { code: code, name: name, beds: beds }\n" + job.limit;
    }

    /** The files of the run or its twin, without what tells the two apart: their names by the rest, and what stands in them. */
    private Map<String, String> files(boolean twin) {
        Map<String, String> files = new TreeMap<>();
        try (Stream<Path> there = Files.list(stage.outbox())) {
            for (Path file : there.toList()) {
                String name = String.valueOf(file.getFileName());
                if (name.contains(name(twin))) {
                    files.put(name.replace(name(twin), ""), Files.readString(file));
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return files;
    }

    private static String shortly(Map<String, String> files) {
        Map<String, Integer> sizes = new TreeMap<>();
        files.forEach((name, text) -> sizes.put(name, text.length()));
        return sizes.toString();
    }

    @Override
    public void clearUp() {
        try (Stream<Path> there = Files.list(stage.outbox())) {
            for (Path file : there.toList()) {
                Files.delete(file);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        stage.annex.execute(List.of("DROP TABLE IF EXISTS " + job.source()));
        stage.forgetFiles();
    }
}
