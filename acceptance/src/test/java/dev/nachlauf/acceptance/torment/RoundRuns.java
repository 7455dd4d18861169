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
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** The runs of a round: started, troubled, decided about, awaited. */
final class RoundRuns {
    /** How long a run may take, on a machine that does other work as well; longer for many rows. */
    private static final Duration MOST = Duration.ofMinutes(4);

    private static final String RELEASE = "{\"beyondLimit\":true}";

    private final Stage stage;
    private final RandomJob job;
    private final Random random;
    private final List<Trouble> troubles;
    private long inDoubt;

    RoundRuns(Stage stage, RandomJob job, Random random, List<Trouble> troubles) {
        this.stage = stage;
        this.job = job;
        this.random = random;
        this.troubles = troubles;
    }

    /** The rows that the disturbed run has left in doubt. */
    long inDoubt() {
        return inDoubt;
    }

    private Duration most() {
        return MOST.plusMillis(3L * job.rows);
    }

    void save(String yaml) {
        Stage.Answer saved = stage.post("/jobs", "application/yaml", yaml.getBytes(StandardCharsets.UTF_8));
        if (saved.status() >= 300) {
            throw new IllegalStateException(saved.body() + "\n" + yaml);
        }
    }

    String upload() {
        return stage.post("/files?name=huts.csv", "application/octet-stream", job.csv.getBytes(StandardCharsets.UTF_8))
                .body()
                .get("hash")
                .asString();
    }

    /** @param more further members of the start, each behind a comma */
    Stage.Answer tryStart(boolean twin, @Nullable String file, String mode, String more) {
        return stage.post(
                "/runs",
                "{\"job\":\"" + job.name(twin) + "\""
                        + (file == null ? "" : ",\"file\":\"" + file + "\",\"fileName\":\"huts.csv\"")
                        + ",\"mode\":\"" + mode + "\"" + job.chosen + more + "}");
    }

    /** The number of a run that has to start. */
    static long started(Stage.Answer answer) {
        if (answer.status() != 201) {
            throw new IllegalStateException("can't be started: " + answer.body());
        }
        return answer.body().get("id").asLong();
    }

    /** Two starts at once: one of them is refused, unless the other run was over already. */
    long startTwice(Callable<Stage.Answer> start) {
        try (ExecutorService hands = Executors.newFixedThreadPool(2)) {
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
            return started(begun.getFirst());
        } catch (InterruptedException | ExecutionException e) {
            throw new IllegalStateException(e);
        }
    }

    /** What goes wrong while a run moves that took so many milliseconds undisturbed. */
    void trouble(long run, long took) {
        for (Trouble trouble : troubles) {
            Stage.pause((long) (random.nextDouble() * Math.min(took, 6_000) * 1.1));
            try {
                trouble.happen(stage, job, run, random);
            } catch (IllegalStateException e) {
                // what is down already can't be hindered
            }
        }
    }

    void releaseWhenHeld(long run) {
        Stage.until(
                most(),
                "run " + run + " is held or has ended",
                () -> !Set.of("waiting", "running")
                        .contains(stage.get("/runs/" + run).get("state").asString()));
        stage.postAsAnother("/runs/" + run + "/release", RELEASE);
    }

    /** The run when it has ended and nothing of it is in doubt that can be settled; a held one is decided about. */
    JsonNode ended(long run, boolean twin) {
        JsonNode[] now = new JsonNode[1];
        Stage.until(most(), "run " + run + " ends, last seen as " + now[0], () -> {
            now[0] = stage.get("/runs/" + run);
            String state = now[0].get("state").asString();
            if (state.equals("held")) {
                boolean discard = !twin && random.nextInt(5) == 0;
                stage.postAsAnother("/runs/" + run + (discard ? "/discard" : "/release"), discard ? "" : RELEASE);
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
}
