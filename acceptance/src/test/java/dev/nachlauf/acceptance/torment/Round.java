package dev.nachlauf.acceptance.torment;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Stream;
import tools.jackson.databind.JsonNode;

/** One job, run undisturbed first and then with trouble, and compared. */
final class Round {
    /** How long a run may take, on a machine that does other work as well; longer for many rows. */
    private static final Duration MOST = Duration.ofMinutes(4);

    private static final String YAML = "application/yaml";
    private static final String JSON = "application/json";
    private static final byte[] RELEASE = "{\"beyondLimit\":true}".getBytes(StandardCharsets.UTF_8);

    private final Stage stage;
    private final RandomJob job;
    private final Random random;
    private final List<Trouble> troubles = new ArrayList<>();
    private boolean strangers;
    private boolean released;
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
    private long inDoubt;

    Round(Stage stage, long seed) {
        this.stage = stage;
        this.job = new RandomJob(seed);
        // what happens is made of the seed as well, but not of the same numbers
        this.random = new Random(seed ^ 0x5EED);
        for (int i = random.nextInt(3) == 0 ? random.nextInt(3) : 0; i >= 0; i--) {
            troubles.add(Trouble.values()[random.nextInt(Trouble.values().length)]);
        }
        this.strangers = random.nextInt(5) < 2 && job.isPlain();
        // a group that was reviewed fails as a whole where the target then refuses the row that stands for it
        this.held = random.nextInt(4) == 0 && !(job.grouping.equals("alone") && job.second > 0);
        this.releasedBefore = random.nextBoolean();
        this.undone = !strangers && random.nextInt(3) == 0;
        boolean survived = troubles.stream().allMatch(Trouble::isSurvived);
        this.foreseen = random.nextInt(3) == 0 && survived && !troubles.contains(Trouble.COLUMN_DROPPED);
        this.sentAgain = !strangers && !undone && random.nextInt(3) == 0;
        this.foresight = random.nextBoolean() ? "rehearse" : "dry-run";
        this.first = random.nextInt(4) == 0 && !held && job.canBegin() ? 1 + random.nextInt(job.rows) : 0;
    }

    private Duration most() {
        return MOST.plusMillis(3L * job.rows);
    }

    List<Trouble> troubles() {
        return troubles;
    }

    String state() {
        return state;
    }

    long inDoubt() {
        return inDoubt;
    }

    @Override
    public String toString() {
        return job + (foreseen ? ", " + foresight + " before" : "") + (held ? ", held" : "")
                + (first > 0 ? ", first " + first : "") + (undone ? ", undone" : "")
                + (sentAgain ? ", sent again" : "") + "; "
                + troubles
                + (strangers ? " and strangers" : "") + "; " + state
                + (inDoubt > 0 ? ", " + inDoubt + " in doubt" : "");
    }

    /** What differs; empty where all is well. */
    List<String> run() {
        for (boolean twin : new boolean[] {true, false}) {
            stage.place(job).execute(job.schema(twin));
            if (job.second > 0) {
                notesPlace().execute(job.notesSchema(twin));
            }
        }
        long rows = job.records ? SourceRecords.fill(stage.own, job) : job.rows;
        String file = job.records ? null : upload();
        save(true);
        save(false);
        long began = System.nanoTime();
        long twin = start(true, file);
        JsonNode undisturbed = ended(twin, true);
        long took = (System.nanoTime() - began) / 1_000_000;
        Records before = huts(false);
        Records notesBefore = notes(false);
        List<String> wrong = foreseen ? foresee(file, took, undisturbed, before, notesBefore) : List.of();
        if (!wrong.isEmpty()) {
            return wrong;
        }
        long run = random.nextInt(4) == 0 ? startTwice(file) : start(false, file);
        if (held && releasedBefore) {
            releaseWhenHeld(run);
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
        Stage.Answer started = stage.post("/runs/" + run + "/resubmit", JSON, "{}".getBytes(StandardCharsets.UTF_8));
        Comparison comparison = new Comparison();
        boolean any = rejected.stream().anyMatch(reject -> reject.get("row").asLong() > 0);
        comparison.require(started.status() == (any ? 201 : 409), "the rejects are sent again: " + started.body());
        if (started.status() != 201) {
            return comparison.differences();
        }
        long again = started.body().get("id").asLong();
        trouble(again, took);
        JsonNode ended = ended(again, false);
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
        trouble(run, took);
        JsonNode ended = ended(run, false);
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

    private void releaseWhenHeld(long run) {
        Stage.until(
                most(),
                "run " + run + " is held or has ended",
                () -> !Set.of("waiting", "running")
                        .contains(stage.get("/runs/" + run).get("state").asString()));
        stage.post("/runs/" + run + "/release", JSON, RELEASE);
        released = true;
    }

    /** Takes the run back, with trouble, and compares with what was there before it. */
    private List<String> undo(long run, long took, Records before, Records notesBefore) {
        Stage.Answer started = stage.post("/runs/" + run + "/undo", JSON, "{}".getBytes(StandardCharsets.UTF_8));
        Comparison comparison = new Comparison();
        boolean written = Stream.of("inserted", "updated", "deleted")
                .anyMatch(outcome -> !stage.all("/runs/" + run + "/ledger?outcome=" + outcome)
                        .isEmpty());
        comparison.require(started.status() == 201 || !written, "the undo is refused: " + started.body());
        if (started.status() != 201) {
            return comparison.differences();
        }
        long undo = started.body().get("id").asLong();
        trouble(undo, took);
        JsonNode ended = ended(undo, false);
        boolean survived = troubles.stream().allMatch(Trouble::isSurvived);
        comparison.require(
                !survived || ended.get("state").asString().equals("finished"),
                "the undo is " + ended.get("state") + ": " + ended.get("reasons"));
        comparison.require(ended.get("balance").get("balanced").asBoolean(), "the undo: " + ended.get("balance"));
        if (ended.get("state").asString().equals("finished")) {
            comparison.require(ended.get("openRejects").asLong() == 0, "the undo has rejects");
            comparison.alike(huts(false), before);
            comparison.alike(notes(false), notesBefore);
        }
        return comparison.differences();
    }

    private Set<String> disturbed(long run, long took) {
        if (!strangers) {
            trouble(run, took);
            state = ended(run, false).get("state").asString();
            return Set.of();
        }
        try (Strangers others = new Strangers(stage, job, new Random(job.seed))) {
            trouble(run, took);
            state = ended(run, false).get("state").asString();
            others.close();
            return others.added();
        }
    }

    private void trouble(long run, long took) {
        for (Trouble trouble : troubles) {
            Stage.pause((long) (random.nextDouble() * Math.min(took, 6_000) * 1.1));
            try {
                trouble.happen(stage, job, run, random);
            } catch (IllegalStateException e) {
                // what is down already can't be hindered
            }
        }
    }

    private void save(boolean twin) {
        Stage.Answer saved = stage.post("/jobs", YAML, job.yaml(twin).getBytes(StandardCharsets.UTF_8));
        if (saved.status() >= 300) {
            throw new IllegalStateException(saved.body() + "\n" + job.yaml(twin));
        }
    }

    private String upload() {
        return stage.post("/files?name=huts.csv", "application/octet-stream", job.csv.getBytes(StandardCharsets.UTF_8))
                .body()
                .get("hash")
                .asString();
    }

    private Stage.Answer tryStart(boolean twin, String file) {
        return tryStart(twin, file, held && !twin ? "hold" : "write");
    }

    private Stage.Answer tryStart(boolean twin, String file, String mode) {
        String body = "{\"job\":\"" + job.name(twin) + "\""
                + (file == null ? "" : ",\"file\":\"" + file + "\",\"fileName\":\"huts.csv\"")
                + ",\"mode\":\"" + mode + "\"" + job.chosen
                + (first > 0 && !twin && mode.equals("write") ? ",\"first\":" + first : "") + "}";
        return stage.post("/runs", JSON, body.getBytes(StandardCharsets.UTF_8));
    }

    private long start(boolean twin, String file) {
        Stage.Answer started = tryStart(twin, file);
        if (started.status() != 201) {
            throw new IllegalStateException("can't be started: " + started.body() + "\n" + job.yaml(twin));
        }
        return started.body().get("id").asLong();
    }

    /** Two starts at once: one of them is refused, unless the other run was over already. */
    private long startTwice(String file) {
        try (ExecutorService hands = Executors.newFixedThreadPool(2)) {
            Callable<Stage.Answer> start = () -> tryStart(false, file);
            List<Future<Stage.Answer>> both = List.of(hands.submit(start), hands.submit(start));
            List<Stage.Answer> begun = new ArrayList<>();
            for (Future<Stage.Answer> one : both) {
                if (one.get().status() == 201) {
                    begun.add(one.get());
                }
            }
            if (begun.size() != 1) {
                throw new IllegalStateException(begun.size() + " of two starts at once have begun");
            }
            return begun.getFirst().body().get("id").asLong();
        } catch (InterruptedException | ExecutionException e) {
            throw new IllegalStateException(e);
        }
    }

    /** The run when it has ended and nothing of it is in doubt that can be settled; a held one is decided about. */
    private JsonNode ended(long run, boolean twin) {
        JsonNode[] now = new JsonNode[1];
        Stage.until(most(), "run " + run + " ends, last seen as " + now[0], () -> {
            now[0] = stage.get("/runs/" + run);
            String state = now[0].get("state").asString();
            if (state.equals("held")) {
                boolean discard = !twin && random.nextInt(5) == 0;
                released |= !discard;
                stage.post("/runs/" + run + (discard ? "/discard" : "/release"), JSON, discard ? new byte[0] : RELEASE);
                return false;
            }
            return Set.of("finished", "failed", "stopped", "discarded").contains(state);
        });
        long patience = System.nanoTime() + Duration.ofSeconds(15).toNanos();
        while (now[0].get("balance").get("unknown").asLong() > 0 && System.nanoTime() < patience) {
            Stage.pause(200);
            now[0] = stage.get("/runs/" + run);
        }
        inDoubt = twin ? 0 : now[0].get("balance").get("unknown").asLong();
        return now[0];
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
        boolean simple = job.second == 0 && job.steps.stream().noneMatch(step -> step.contains("combine"));
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
    void clearUp() {
        for (boolean twin : new boolean[] {true, false}) {
            stage.place(job).execute(List.of("DROP TABLE IF EXISTS " + job.table(twin) + ", " + job.notes(twin)));
            stage.annex.execute(List.of("DROP TABLE IF EXISTS " + job.notes(twin)));
        }
        stage.annex.execute(List.of("DROP TABLE IF EXISTS " + job.source()));
        stage.forgetFiles();
    }
}
