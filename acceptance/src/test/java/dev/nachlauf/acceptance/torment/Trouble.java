package dev.nachlauf.acceptance.torment;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** What can happen to a run. Whatever is taken away is given back, but for what a person has changed. */
enum Trouble {
    SERVICE_KILLED {
        @Override
        void happen(Stage stage, RandomJob job, long run, Random random) {
            Stage.Service service = one(stage, random);
            service.kill();
            service.start();
        }
    },
    BOTH_SERVICES_KILLED {
        @Override
        void happen(Stage stage, RandomJob job, long run, Random random) {
            stage.services.forEach(Stage.Service::kill);
            stage.services.forEach(Stage.Service::start);
        }
    },
    SERVICE_ENDED {
        @Override
        void happen(Stage stage, RandomJob job, long run, Random random) {
            Stage.Service service = one(stage, random);
            service.end();
            service.start();
        }
    },
    SERVICE_SLEEPS {
        @Override
        void happen(Stage stage, RandomJob job, long run, Random random) {
            Stage.Service service = one(stage, random);
            service.signal("STOP");
            Stage.pause(random.nextInt(5) == 0 ? 15_000 : 2_500);
            service.signal("CONT");
        }
    },
    BACKEND_KILLED {
        @Override
        void happen(Stage stage, RandomJob job, long run, Random random) {
            stage.place(job).endSessions(true);
        }
    },
    BACKENDS_ENDED {
        @Override
        void happen(Stage stage, RandomJob job, long run, Random random) {
            stage.place(job).endSessions(false);
        }
    },
    TARGET_STOPPED_HARD {
        @Override
        void happen(Stage stage, RandomJob job, long run, Random random) {
            stopHard(stage.place(job), random);
        }
    },
    OWN_DATABASE_STOPPED_HARD {
        @Override
        void happen(Stage stage, RandomJob job, long run, Random random) {
            stopHard(stage.annex, random);
        }
    },
    TARGET_AND_SERVICE {
        @Override
        void happen(Stage stage, RandomJob job, long run, Random random) {
            stage.place(job).kill();
            Stage.Service service = one(stage, random);
            service.kill();
            stage.place(job).startAgain();
            service.start();
        }
    },
    TARGET_HANGS {
        @Override
        void happen(Stage stage, RandomJob job, long run, Random random) {
            stage.place(job).hang(true);
            Stage.pause(3_000);
            stage.place(job).hang(false);
        }
    },
    /** The services' disk, or the one that the tables lie on. */
    DISK_FULL {
        @Override
        void happen(Stage stage, RandomJob job, long run, Random random) {
            Path disk = random.nextInt(3) == 0 ? stage.targetDisk() : stage.smallDisk();
            Path filler = disk.resolve("filler");
            try {
                if (Files.getFileStore(disk).getTotalSpace() > SMALL_DISK) {
                    return;
                }
                try (var out = Files.newOutputStream(filler)) {
                    byte[] block = new byte[1 << 16];
                    while (true) {
                        out.write(block);
                    }
                } catch (IOException full) {
                    Stage.pause(2_000);
                } finally {
                    Files.deleteIfExists(filler);
                }
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    },
    COLUMN_DROPPED {
        @Override
        void happen(Stage stage, RandomJob job, long run, Random random) {
            stage.place(job).execute(List.of("ALTER TABLE " + job.table(false) + " DROP COLUMN IF EXISTS note"));
        }
    },
    STOP_ASKED {
        @Override
        void happen(Stage stage, RandomJob job, long run, Random random) {
            stage.post("/runs/" + run + "/stop", "application/json", new byte[0]);
        }
    };

    private static final long SMALL_DISK = 1L << 30;

    /** One of these, or now and then two or three. */
    static List<Trouble> some(Random random, Trouble... possible) {
        List<Trouble> some = new ArrayList<>();
        for (int i = random.nextInt(3) == 0 ? random.nextInt(3) : 0; i >= 0; i--) {
            some.add(possible[random.nextInt(possible.length)]);
        }
        return some;
    }

    private static Stage.Service one(Stage stage, Random random) {
        return stage.services.get(random.nextInt(stage.services.size()));
    }

    abstract void happen(Stage stage, RandomJob job, long run, Random random);

    /** Whether the run can be expected to finish after it. */
    boolean isSurvived() {
        return this != COLUMN_DROPPED && this != STOP_ASKED;
    }

    private static void stopHard(Place place, Random random) {
        place.kill();
        Stage.pause(random.nextInt(1_500));
        place.startAgain();
    }
}
