package dev.nachlauf.acceptance.torment;

import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.Stream;
import tools.jackson.databind.JsonNode;

/** A job that writes to databases, run undisturbed first and then with trouble, and compared. */
final class LoadRound implements Round {
    private final Stage stage;
    private final RandomJob job;
    private final Random random;
    private final List<Trouble> troubles;
    private final RoundRuns runs;
    private boolean strangers;
    /** Whether the disturbed run is planned first, and written when it is released. */
    private final boolean held;

    /** Whether it is released before the trouble begins. */
    private final boolean releasedBefore;

    /** Whether it is taken back in the end, with trouble once more. */
    private final boolean undone;

    /** Whether it is foreseen before, with the same trouble. */
    private final boolean foreseen;

    /** How: rehearsed, or only planned. */
    private final String foresight;

    /** So many rows are written first, then the rest when it is released; 0 for all. */
    private final int first;

    /** Whether what it has rejected is sent again, with trouble once more. */
    private final boolean sentAgain;

    private String state = "";

    LoadRound(Stage stage, RandomJob job) {
        this.stage = stage;
        this.job = job;
        // what happens is made of the seed as well, but not of the same numbers
        this.random = new Random(job.seed ^ 0x5EED);
        this.troubles = Trouble.some(random, Trouble.values());
        this.runs = new RoundRuns(stage, job, random, troubles);
        this.strangers = random.nextInt(5) < 2 && job.isPlain();
        // a group that was reviewed fails as a whole where the target then refuses the row that stands for it
        this.held =
                random.nextInt(4) == 0 && !job.isTooMuchToPlan() && !(job.grouping.equals("alone") && job.second > 0);
        this.releasedBefore = random.nextBoolean();
        this.undone = !strangers && random.nextInt(3) == 0;
        boolean survived = troubles.stream().allMatch(Trouble::isSurvived);
        this.foreseen = random.nextInt(3) == 0
                && !job.isTooMuchToPlan()
                && survived
                && !troubles.contains(Trouble.COLUMN_DROPPED);
        this.sentAgain = !strangers && !undone && random.nextInt(3) == 0;
        this.foresight = random.nextBoolean() ? "rehearse" : "dry-run";
        this.first = random.nextInt(4) == 0 && !held && job.canBegin() ? 1 + random.nextInt(job.rows) : 0;
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
        return job + (foreseen ? ", " + foresight + " before" : "") + (held ? ", held" : "")
                + (first > 0 ? ", first " + first : "") + (undone ? ", undone" : "")
                + (sentAgain ? ", sent again" : "") + "; "
                + troubles
                + (strangers ? " and strangers" : "") + "; " + state
                + (inDoubt() > 0 ? ", " + inDoubt() + " in doubt" : "");
    }

    @Override
    public List<String> run() {
        for (boolean twin : new boolean[] {true, false}) {
            stage.place(job).execute(job.schema(twin));
            if (job.second > 0) {
                notesPlace().execute(job.notesSchema(twin));
            }
        }
        long rows = job.records ? SourceRecords.fill(stage.own, job) : job.rows;
        String file = job.records ? null : runs.upload();
        if (job.sensitive) {
            stage.guard(job);
        }
        runs.save(job.yaml(true));
        runs.save(job.yaml(false));
        long began = System.nanoTime();
        long twin = start(true, file);
        JsonNode undisturbed = runs.ended(twin, true);
        long took = (System.nanoTime() - began) / 1_000_000;
        Records before = huts(false);
        Records notesBefore = notes(false);
        List<String> wrong = foreseen ? foresee(file, took, undisturbed, before, notesBefore) : List.of();
        if (!wrong.isEmpty()) {
            return wrong;
        }
        long run = random.nextInt(4) == 0 ? runs.startTwice(() -> tryStart(false, file)) : start(false, file);
        if (held && releasedBefore) {
            runs.releaseWhenHeld(run);
        }
        Set<String> theirs = disturbed(run, took);
        List<String> differences = compare(run, undisturbed, before, notesBefore, theirs, rows);
        boolean whole = state.equals("finished") && !troubles.contains(Trouble.COLUMN_DROPPED) && !job.trigger;
        if (!whole || !differences.isEmpty()) {
            return differences;
        }
        return undone ? undo(run, took, before, notesBefore) : sentAgain ? sendAgain(run, took) : differences;
    }

    /** Sends the rejected rows once more, with trouble: nothing has changed, so each is rejected again, and nothing else happens. */
    private List<String> sendAgain(long run, long took) {
        List<JsonNode> rejected = stage.all("/rejects?run=" + run);
        Records huts = huts(false);
        Records notes = notes(false);
        Stage.Answer started = stage.post("/runs/" + run + "/resubmit", "{}");
        Comparison comparison = new Comparison();
        boolean any = rejected.stream().anyMatch(reject -> reject.get("row").asLong() > 0);
        comparison.require(started.status() == (any ? 201 : 409), "the rejects are sent again: " + started.body());
        if (started.status() != 201) {
            return comparison.differences();
        }
        long again = started.body().get("id").asLong();
        runs.trouble(again, took);
        JsonNode ended = runs.ended(again, false);
        boolean survived = troubles.stream().allMatch(Trouble::isSurvived);
        boolean finished = ended.get("state").asString().equals("finished");
        comparison.require(!survived || finished, "sent again, they are " + ended.get("reasons"));
        comparison.require(ended.get("balance").get("balanced").asBoolean(), "sent again: " + ended.get("balance"));
        comparison.sameRejects(rejected, stage.all("/rejects?run=" + run), finished);
        comparison.alike(huts(false), huts);
        comparison.alike(notes(false), notes);
        return comparison.differences();
    }

    /**
     * Rehearses or plans the job, with trouble: nothing of it is left. A rehearsal says what then becomes of the rows; a plan
     * can't know what the target will refuse, but nothing else.
     */
    private List<String> foresee(String file, long took, JsonNode undisturbed, Records before, Records notesBefore) {
        Stage.Answer started = tryStart(false, file, foresight);
        if (started.status() != 201) {
            throw new IllegalStateException("can't be foreseen: " + started.body());
        }
        long run = started.body().get("id").asLong();
        runs.trouble(run, took);
        JsonNode ended = runs.ended(run, false);
        Comparison comparison = new Comparison();
        JsonNode balance = ended.get("balance");
        comparison.require(ended.get("state").asString().equals("finished"), foresight + ": " + ended.get("reasons"));
        comparison.require(balance.get("balanced").asBoolean(), foresight + " doesn't balance: " + balance);
        for (String count :
                List.of("read", "skipped", "rejected", "inserted", "updated", "unchanged", "deleted", "refused")) {
            long told = balance.get(count).asLong();
            long came = undisturbed.get("balance").get(count).asLong();
            boolean exact =
                    foresight.equals("rehearse") || Set.of("read", "skipped").contains(count);
            boolean most = Set.of("rejected", "refused").contains(count) ? told <= came : told >= came;
            comparison.require(
                    exact ? told == came : most, foresight + ": " + told + " " + count + ", undisturbed: " + came);
        }
        comparison.alike(huts(false), before);
        comparison.alike(notes(false), notesBefore);
        return comparison.differences();
    }

    /** Takes the run back, with trouble, and compares with what was there before it. */
    private List<String> undo(long run, long took, Records before, Records notesBefore) {
        Stage.Answer started = stage.post("/runs/" + run + "/undo", "{}");
        Comparison comparison = new Comparison();
        Records written = huts(false);
        boolean any = Stream.of("inserted", "updated", "deleted")
                .anyMatch(outcome -> !stage.all("/runs/" + run + "/ledger?outcome=" + outcome)
                        .isEmpty());
        comparison.require(started.status() == 201 || !any, "the undo is refused: " + started.body());
        if (started.status() != 201) {
            return comparison.differences();
        }
        long undo = started.body().get("id").asLong();
        runs.trouble(undo, took);
        JsonNode ended = runs.ended(undo, false);
        boolean survived = troubles.stream().allMatch(Trouble::isSurvived);
        String undone = ended.get("state").asString();
        comparison.require(
                !survived || Set.of("finished", "discarded").contains(undone),
                "the undo is " + undone + ": " + ended.get("reasons"));
        comparison.require(ended.get("balance").get("balanced").asBoolean(), "the undo: " + ended.get("balance"));
        if (undone.equals("discarded")) {
            comparison.alike(huts(false), written);
        }
        if (undone.equals("finished")) {
            comparison.require(ended.get("openRejects").asLong() == 0, "the undo has rejects");
            comparison.alike(huts(false), before);
            comparison.alike(notes(false), notesBefore);
        }
        return comparison.differences();
    }

    private Set<String> disturbed(long run, long took) {
        if (!strangers) {
            runs.trouble(run, took);
            state = runs.ended(run, false).get("state").asString();
            return Set.of();
        }
        try (Strangers others = new Strangers(stage, job, new Random(job.seed))) {
            runs.trouble(run, took);
            state = runs.ended(run, false).get("state").asString();
            others.close();
            return others.added();
        }
    }

    private Stage.Answer tryStart(boolean twin, String file) {
        return tryStart(twin, file, held && !twin ? "hold" : "write");
    }

    private Stage.Answer tryStart(boolean twin, String file, String mode) {
        String some = first > 0 && !twin && mode.equals("write") ? ",\"first\":" + first : "";
        return runs.tryStart(twin, file, mode, some);
    }

    private long start(boolean twin, String file) {
        Stage.Answer started = tryStart(twin, file);
        if (started.status() != 201) {
            throw new IllegalStateException("can't be started: " + started.body() + "\n" + job.yaml(twin));
        }
        return started.body().get("id").asLong();
    }

    private Place notesPlace() {
        return job.second == 1 ? stage.place(job) : stage.annex;
    }

    private Records huts(boolean twin) {
        return Records.of(stage.place(job), job.table(twin), Records.HUT);
    }

    private Records notes(boolean twin) {
        return job.second == 0
                ? new Records(java.util.Map.of())
                : Records.of(notesPlace(), job.notes(twin), Records.NOTE);
    }

    private List<String> compare(
            long id, JsonNode undisturbed, Records before, Records notesBefore, Set<String> theirs, long rows) {
        JsonNode run = stage.get("/runs/" + id);
        List<JsonNode> ledger = stage.all("/runs/" + id + "/ledger");
        List<JsonNode> rejects = stage.all("/rejects?run=" + id);
        Records after = huts(false);
        Comparison comparison = new Comparison();
        // what was only planned has changed nothing
        List<JsonNode> written = run.get("planned").asBoolean() ? List.of() : ledger;
        comparison.table("hut", written, before, after, theirs);
        comparison.table("notes", written, notesBefore, notes(false), Set.of());
        boolean simple = job.second == 0 && !job.combines();
        comparison.balance(run, ledger, rows, simple);
        if (!state.equals("discarded")) {
            comparison.rejects(ledger, rejects);
        }
        boolean survived = troubles.stream().allMatch(Trouble::isSurvived);
        comparison.require(
                !survived || Set.of("finished", "discarded").contains(state),
                "the run is " + state + ": " + run.get("reasons"));
        comparison.require(undisturbed.get("state").asString().equals("finished"), "undisturbed: " + undisturbed);
        if (state.equals("finished") && theirs.isEmpty() && !strangers) {
            long twin = undisturbed.get("id").asLong();
            comparison.twin(ledger, stage.all("/runs/" + twin + "/ledger"));
            if (!troubles.contains(Trouble.COLUMN_DROPPED)) {
                comparison.alike(after, huts(true));
            }
        }
        if (job.records) {
            String mark = stage.own.query(
                    "service",
                    "SELECT count(*) FROM job_watermark w JOIN job j ON j.id = w.job_id" + " WHERE j.name = '"
                            + job.job() + "'");
            comparison.require(
                    mark.equals(state.equals("finished") ? "1" : "0"),
                    "the watermark of a run that is " + state + ": " + mark);
        }
        return comparison.differences();
    }

    /** Tables of rounds that are over would only slow the next ones down. */
    @Override
    public void clearUp() {
        for (boolean twin : new boolean[] {true, false}) {
            stage.place(job).execute(List.of("DROP TABLE IF EXISTS " + job.table(twin) + ", " + job.notes(twin)));
            stage.annex.execute(List.of("DROP TABLE IF EXISTS " + job.notes(twin)));
        }
        stage.annex.execute(List.of("DROP TABLE IF EXISTS " + job.source()));
        stage.forgetFiles();
    }
}
