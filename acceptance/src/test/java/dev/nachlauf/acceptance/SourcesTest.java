package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpServer;
import dev.nachlauf.standins.FileDrop;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Sources through the client: looked at, profiled, fetched from real servers, taken once, and never half. */
class SourcesTest {
    private static final Installation NACHLAUF = Installation.shared();
    private static final Path FILES = Installation.TOP.resolve("demo-data/files");
    private static final String JOB = """
            nachlauf: 1
            job: %1$s
            read:
              connection: %2$s
              %3$s
            write:
              connection: register
              records: waymark
              action: upsert
              key: [code]
              map: { code: code, stones: stones, origin: source.file }
            """;
    private static FileDrop drop;

    @BeforeAll
    static void startDrop() {
        drop = FileDrop.start(FILES.resolve("drop"), "guides", Installation.SECRET, "");
        NACHLAUF.cluster.execute(
                NACHLAUF.register,
                "CREATE TABLE waymark (code text PRIMARY KEY, stones integer NOT NULL, origin text)");
        connection(
                "guides",
                "sftp",
                "host: 127.0.0.1, port: " + drop.sftpPort()
                        + ", user: guides, password: { env: NACHLAUF_SECRET_REGISTER }, host-key: \"" + drop.hostKey()
                        + "\"");
        connection(
                "helicopter",
                "ftp",
                "host: 127.0.0.1, port: " + drop.ftpPort()
                        + ", user: guides, password: { env: NACHLAUF_SECRET_REGISTER }, certificate: \""
                        + drop.certificate()
                        + "\"");
    }

    @AfterAll
    static void stopDrop() {
        drop.close();
    }

    private static void connection(String name, String type, String settings) {
        Path file = NACHLAUF.write(
                name + ".yaml",
                "nachlauf: 1\nconnection: " + name + "\ntype: " + type + "\nsettings: { " + settings + " }\n");
        assertThat(NACHLAUF.client("connection", "save", file.toString()).status())
                .isZero();
    }

    private static void job(String name, String connection, String read) {
        Path file = NACHLAUF.write(name + "-job.yaml", JOB.formatted(name, connection, read));
        Result saved = NACHLAUF.client("job", "save", file.toString());
        assertThat(saved.status()).as(saved.err()).isZero();
    }

    private static Result run(String job, String... more) {
        List<String> words = new java.util.ArrayList<>(List.of("--output", "json", "run", "start", job, "--follow"));
        words.addAll(List.of(more));
        return NACHLAUF.client(words.toArray(String[]::new));
    }

    private static String cairns(String job) {
        return NACHLAUF.count(
                "SELECT string_agg(code || stones, ' ' ORDER BY code) FROM waymark WHERE code LIKE '" + job + "%'");
    }

    private static long read(Result run) {
        return run.json().get("balance").get("read").asLong();
    }

    private static JsonNode field(JsonNode view, String name) {
        for (JsonNode field : view.get("fields")) {
            if (field.get("name").asString().equals(name)) {
                return field;
            }
        }
        throw new AssertionError(name);
    }

    private static JsonNode look(String... words) {
        List<String> all = new java.util.ArrayList<>(List.of("--output", "json", "source", "preview"));
        all.addAll(List.of(words));
        Result result = NACHLAUF.client(all.toArray(String[]::new));
        assertThat(result.status()).as(result.err()).isZero();
        return result.json();
    }

    @Test
    void theSpringListIsLookedAt() {
        JsonNode view = look(FILES.resolve("spring-list-2026.xlsx").toString());
        assertThat(view.get("format").asString()).isEqualTo("xlsx");
        assertThat(view.get("sampled").asLong()).isEqualTo(250);
        assertThat(view.get("whole").asBoolean()).isTrue();
        assertThat(view.get("options").toString()).contains("all 9 sheets have the same names of columns");
        assertThat(field(view, "opens").get("pattern").asString()).isEqualTo("dd.MM.yyyy");
        assertThat(field(view, "height").get("question").asString())
                .contains("1767")
                .contains("1.767");
        assertThat(view.get("rows").get(0).get("place").asString()).isEqualTo("spring-list-2026.xlsx, Seekamm, row 3");
        assertThat(view.get("read").asString()).contains("header-row: 2").doesNotContain("height:");
    }

    @Test
    void whatIsDetectedCanBeOverridden() {
        JsonNode view = look(
                FILES.resolve("spring-list-2026.xlsx").toString(),
                "--option",
                "sheets=3",
                "--field",
                "height=integer:de",
                "--rows",
                "2");
        assertThat(view.get("sampled").asLong()).isEqualTo(31);
        assertThat(field(view, "height").get("evidence").asString()).isEqualTo("stated");
        assertThat(view.get("rows").size()).isEqualTo(2);
        assertThat(view.get("rows").get(0).get("place").asString()).contains("Southern Ridge");
        Result unknown = NACHLAUF.client(
                "source", "preview", FILES.resolve("stays-2026.csv").toString(), "--option", "delimter=;");
        assertThat(unknown.status()).isEqualTo(1);
        assertThat(unknown.err()).contains("no option delimter");
    }

    @Test
    void staysOrdersAndTrailsAreLookedAt() {
        JsonNode stays = look(FILES.resolve("stays-2026.csv").toString(), "--option", "trailer=TOTAL");
        assertThat(stays.get("options").toString()).contains("windows-1252");
        assertThat(field(stays, "price").get("locale").asString()).isEqualTo("de");
        assertThat(field(stays, "nights").get("kind").asString()).isEqualTo("integer");
        JsonNode orders = look("supply-orders-2026.jsonl", "--connection", "helicopter");
        assertThat(orders.get("format").asString()).isEqualTo("json-lines");
        assertThat(field(orders, "hut.code").get("kind").asString()).isEqualTo("text");
        assertThat(field(orders, "urgent").get("kind").asString()).isEqualTo("boolean");
        JsonNode trails =
                look("trail-survey-2026.xml", "--connection", "guides", "--option", "record=survey.region.trail");
        assertThat(trails.get("sampled").asLong()).isEqualTo(120);
        assertThat(trails.get("rows").get(0).get("place").asString()).endsWith("/survey/region[1]/trail[1]");
    }

    @Test
    void everySourceIsProfiled() {
        Result stays = NACHLAUF.client(
                "--output",
                "json",
                "source",
                "profile",
                FILES.resolve("stays-2026.csv").toString(),
                "--option",
                "trailer=TOTAL",
                "--key",
                "stay no");
        assertThat(stays.json().get("rows").asLong()).isEqualTo(1_200);
        assertThat(stays.json().get("keys").get(0).get("repeated").asLong()).isEqualTo(2);
        assertThat(field(stays.json(), "arrival").get("misfits").asLong()).isEqualTo(1);
        assertThat(field(stays.json(), "category").get("distinct").asLong()).isEqualTo(3);
        Result orders = NACHLAUF.client(
                "--output", "json", "source", "profile", "supply-orders-2026.jsonl", "--connection", "helicopter");
        assertThat(orders.json().get("broken").asLong()).isEqualTo(1);
        Result trails = NACHLAUF.client(
                "source",
                "profile",
                "trail-survey-2026.xml",
                "--connection",
                "guides",
                "--option",
                "record=survey.region.trail.section");
        assertThat(trails.out()).contains("363 rows", "survey.year is 2026 in every row.");
        Result records = NACHLAUF.client(
                "--output", "json", "connection", "profile", "register", "region", "--key", "region_code");
        assertThat(records.json().get("rows").asLong()).isEqualTo(8);
        assertThat(records.json().get("keys").get(0).get("repeated").asLong()).isZero();
    }

    @Test
    void keysAreAdvisedAgainstATarget() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register,
                "CREATE TABLE peak (peak_id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, code varchar(6) UNIQUE, name text, ridge text);"
                        + "INSERT INTO peak (code, name, ridge) VALUES ('P-1', 'One', 'N'), ('P-2', 'Two', 'N'), ('P-3', 'Two', 'S'); ANALYZE peak");
        Path file = NACHLAUF.write(
                "peaks.csv", "Peak no.;name;feet\np-1;One;1\n p-2;Two;2\nP-9;Nine;3\np-1;One;4\n;Five;5\n");
        Result result =
                NACHLAUF.client("--output", "json", "source", "profile", file.toString(), "--into", "register", "peak");
        JsonNode best = result.json().get("advice").get(0);
        assertThat(best.get("source").get(0).asString()).isEqualTo("Peak no.");
        assertThat(best.get("target").get(0).asString()).isEqualTo("code");
        assertThat(best.get("formula").asString()).startsWith("upper(trim(");
        assertThat(best.get("insert").asLong()).isEqualTo(1);
        assertThat(best.get("update").asLong()).isEqualTo(2);
        assertThat(best.get("key").get("repeated").asLong()).isEqualTo(2);
        assertThat(best.get("notFound").toString()).isEqualTo("[\"P-9\"]");
        JsonNode name = result.json().get("advice").get(1);
        assertThat(name.get("target").get(0).asString()).isEqualTo("name");
        assertThat(name.get("keptUnique").asBoolean()).isFalse();
        assertThat(name.get("ambiguous").asLong()).isEqualTo(1);
        assertThat(name.get("severalFound").toString()).isEqualTo("[\"Two\"]");
    }

    @Test
    void aKeyThatAPersonProposesIsComparedWithTheTarget() {
        Path file = NACHLAUF.write("regions.csv", "Area;n\nsee;1\nLAR;2\nxka;3\n");
        Result result = NACHLAUF.client(
                "--output",
                "json",
                "source",
                "profile",
                file.toString(),
                "--into",
                "register",
                "region",
                "--key",
                "Area=region_code");
        JsonNode proposed = result.json().get("advice").get(0);
        assertThat(proposed.get("target").get(0).asString()).isEqualTo("region_code");
        assertThat(proposed.get("update").asLong()).isEqualTo(2);
        assertThat(proposed.get("insert").asLong()).isEqualTo(1);
        assertThat(result.json().get("keys").get(0).get("repeated").asLong()).isZero();
        Result unknown = NACHLAUF.client(
                "source", "profile", file.toString(), "--into", "register", "region", "--key", "Area=area");
        assertThat(unknown.status()).isEqualTo(1);
        assertThat(unknown.err()).contains("region has no field like area");
    }

    @Test
    void aFileOfTheWebIsSentAgainOnlyWhenItHasChanged() throws IOException {
        AtomicInteger sent = new AtomicInteger();
        String[] content = {"code;stones\nwebA;1\n"};
        HttpServer server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/", exchange -> {
            try (exchange) {
                byte[] bytes = content[0].getBytes(StandardCharsets.UTF_8);
                String tag = "\"" + content[0].hashCode() + "\"";
                exchange.getResponseHeaders().add("ETag", tag);
                if (tag.equals(exchange.getRequestHeaders().getFirst("If-None-Match"))) {
                    exchange.sendResponseHeaders(304, -1);
                } else if (exchange.getRequestMethod().equals("HEAD")) {
                    exchange.sendResponseHeaders(200, -1);
                } else {
                    sent.incrementAndGet();
                    exchange.sendResponseHeaders(200, bytes.length);
                    exchange.getResponseBody().write(bytes);
                }
            }
        });
        server.start();
        try {
            connection(
                    "web",
                    "http",
                    "address: \"http://127.0.0.1:" + server.getAddress().getPort() + "/\"");
            job("web", "web", "file: cairns.csv");
            int checked = sent.get();
            assertThat(read(run("web"))).isEqualTo(1);
            assertThat(run("web").json().get("note").asString()).startsWith("Nothing new");
            assertThat(sent.get())
                    .as("fetched by the check, then never again")
                    .isEqualTo(checked)
                    .isEqualTo(1);
            content[0] = "code;stones\nwebA;2\n";
            assertThat(read(run("web"))).isEqualTo(1);
            assertThat(sent.get()).isEqualTo(2);
            assertThat(cairns("web")).isEqualTo("webA2");
        } finally {
            server.stop(0);
        }
    }

    @Test
    void aPlaceIsBrowsed() {
        assertThat(NACHLAUF.client("connection", "files", "guides").out())
                .contains("trail-survey-2026.xml", "supply-orders-2026.jsonl");
        assertThat(NACHLAUF.client("connection", "files", "guides", "*.xml").out())
                .doesNotContain("supply-orders");
        Result records = NACHLAUF.client("connection", "files", "register");
        assertThat(records.status()).isEqualTo(1);
        assertThat(records.err()).contains("holds no files");
    }

    @Test
    void aFileIsTakenOnceByItsContent() {
        job("once", "wardens-inbox", "file: once-*.csv");
        NACHLAUF.write("inbox/once-1.csv", "code;stones\nonceA;1\n");
        assertThat(read(run("once"))).isEqualTo(1);
        NACHLAUF.write("inbox/once-2.csv", "stones;code\n2;onceB\n3;onceC\n");
        assertThat(read(run("once"))).as("only the new file").isEqualTo(2);
        NACHLAUF.write("inbox/once-3.csv", "code;stones\nonceA;1\n");
        Result nothing = run("once");
        assertThat(nothing.status()).isZero();
        assertThat(nothing.json().get("state").asString()).isEqualTo("finished");
        assertThat(nothing.json().get("note").asString())
                .isEqualTo("Nothing new: the 3 files there were loaded before.");
        Result again =
                run("once", "--file", NACHLAUF.inbox.resolve("once-1.csv").toString());
        assertThat(read(again)).isEqualTo(1);
        assertThat(again.json().get("warnings").get(0).get("code").asString()).isEqualTo("file-loaded-before");
        assertThat(cairns("once")).isEqualTo("onceA1 onceB2 onceC3");
    }

    @Test
    void severalFilesAreOneRunInTheOrderOfTheirNames() {
        job("many", "wardens-inbox", "file: many-*\n  take: always");
        NACHLAUF.write(
                "inbox/many-b.jsonl", "{\"code\":\"manyC\",\"stones\":3}\n{\"code\":\"manyD\",\"stones\":\"x\"}\n");
        NACHLAUF.write("inbox/many-a.csv", "stones;code\n1;manyA\n2;manyB\n");
        Result run = run("many");
        assertThat(read(run)).isEqualTo(4);
        assertThat(run.json().get("files").size()).isEqualTo(2);
        assertThat(run.json().get("source").asString()).isEqualTo("2 files");
        String id = run.json().get("id").asString();
        JsonNode reject = NACHLAUF.client("--output", "json", "rejects", "list", "--run", id)
                .lines()
                .getFirst();
        assertThat(reject.get("row").asLong()).isEqualTo(4);
        assertThat(reject.get("place").asString()).isEqualTo("many-b.jsonl, line 2");
        assertThat(read(run("many"))).as("the job says always").isEqualTo(4);
        assertThat(cairns("many")).isEqualTo("manyA1 manyB2 manyC3");
    }

    @Test
    void aKeyInTwoFilesNamesTheOtherFile() {
        job("twin", "wardens-inbox", "file: twin-*.csv");
        NACHLAUF.write("inbox/twin-1.csv", "code;stones\ntwinA;1\ntwinB;2\n");
        NACHLAUF.write("inbox/twin-2.csv", "code;stones\ntwinC;3\ntwinA;4\n");
        Result run = run("twin");
        String id = run.json().get("id").asString();
        assertThat(NACHLAUF.client("rejects", "list", "--run", id).out())
                .contains("The key twinA stands in row 4 (twin-2.csv) too, so neither is written.")
                .contains("The key twinA stands in row 1 (twin-1.csv) too, so neither is written.");
        assertThat(cairns("twin")).isEqualTo("twinB2 twinC3");
    }

    @Test
    void aFileThatLacksAColumnOfTheJobIsRefusedBeforeItClearsAnything() {
        job("lack", "wardens-inbox", "file: lack-*.csv");
        NACHLAUF.write("inbox/lack-1.csv", "code;stones\nlackA;1\n");
        NACHLAUF.write("inbox/lack-2.csv", "code;pebbles\nlackA;2\n");
        Result refused = run("lack");
        assertThat(refused.status()).isEqualTo(1);
        assertThat(refused.reasons()).contains("lack-2.csv lacks").contains("stones");
        assertThat(NACHLAUF.count("SELECT count(*) FROM waymark WHERE code LIKE 'lack%'"))
                .isEqualTo("0");
    }

    @Test
    void packedFilesAreRead() throws IOException {
        ByteArrayOutputStream zipped = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(zipped)) {
            zip.putNextEntry(new ZipEntry("folder/a.csv"));
            zip.write("code;stones\npackA;1\n".getBytes(StandardCharsets.UTF_8));
            zip.putNextEntry(new ZipEntry("b.json"));
            zip.write("[{\"code\":\"packB\",\"stones\":2}]".getBytes(StandardCharsets.UTF_8));
        }
        job("pack", "wardens-inbox", "file: pack-*");
        Path zip = NACHLAUF.write("pack-1.zip", zipped.toByteArray());
        assertThat(read(run("pack", "--file", zip.toString()))).isEqualTo(2);
        ByteArrayOutputStream packed = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(packed)) {
            gzip.write("code;stones\npackC;3\n".getBytes(StandardCharsets.UTF_8));
        }
        assertThat(read(run(
                        "pack",
                        "--file",
                        NACHLAUF.write("pack-2.csv.gz", packed.toByteArray()).toString())))
                .isEqualTo(1);
        assertThat(cairns("pack")).isEqualTo("packA1 packB2 packC3");
    }

    /** As whoever writes a file does, until it is interrupted. */
    private static void touch(Path file) {
        try {
            while (!Thread.currentThread().isInterrupted()) {
                Files.setLastModifiedTime(file, FileTime.from(Instant.now()));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Test
    void aFileThatMayStillBeWrittenIsNotTaken() throws IOException, InterruptedException {
        connection("slow-inbox", "folder", "path: " + NACHLAUF.inbox + ", quiet: 1");
        Path file = NACHLAUF.write("inbox/young.csv", "code;stones\nyoungA;1\n");
        NACHLAUF.write("inbox/old-young.csv", "code;stones\nyoungB;2\n");
        job("young", "slow-inbox", "file: \"*young.csv\"");
        Thread writer = Thread.ofPlatform().daemon().start(() -> touch(file));
        try {
            assertThat(read(run("young")))
                    .as("only the file that nobody touches any more")
                    .isEqualTo(1);
            Result refused = NACHLAUF.client("source", "preview", "young.csv", "--connection", "slow-inbox");
            assertThat(refused.status()).isEqualTo(1);
            assertThat(refused.err()).contains("file-unfinished", "still being written");
        } finally {
            writer.interrupt();
            writer.join();
        }
        Files.setLastModifiedTime(file, FileTime.from(Instant.now().minusSeconds(3_600)));
        assertThat(read(run("young"))).isEqualTo(1);
        assertThat(cairns("young")).isEqualTo("youngA1 youngB2");
    }

    @Test
    void aClosingLineThatDiffersStopsTheRunBeforeAnythingIsWritten() {
        job("closed", "wardens-inbox", "file: closed.csv\n  trailer: { mark: TOTAL, count: 2, totals: { stones: 3 } }");
        Path cut = NACHLAUF.write("closed-cut.csv", "code;stones\nclosedA;1\nclosedB;2\nTOTAL;3;6\n");
        Result failed = run("closed", "--file", cut.toString());
        assertThat(failed.status()).isEqualTo(1);
        assertThat(failed.json().get("reasons").toString()).contains("file-differs", "'3' for rows, but 2 was read");
        assertThat(NACHLAUF.count("SELECT count(*) FROM waymark WHERE code LIKE 'closed%'"))
                .isEqualTo("0");
        Path whole = NACHLAUF.write("closed-whole.csv", "code;stones\nclosedA;1\nclosedB;2\nTOTAL;2;3\n");
        assertThat(run("closed", "--file", whole.toString()).status()).isZero();
    }

    @Test
    void recordsAndQueriesAreSourcesToo() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register,
                "CREATE TABLE old_cairn (code text, stones numeric); INSERT INTO old_cairn VALUES ('recA', 1), ('recB', 2.5), ('recC', 3)");
        job("rec", "register", "records: old_cairn");
        Result run = run("rec");
        assertThat(run.json().get("source").asString()).isEqualTo("register old_cairn");
        assertThat(cairns("rec")).isEqualTo("recA1 recC3");
        String id = run.json().get("id").asString();
        JsonNode reject = NACHLAUF.client("--output", "json", "rejects", "list", "--run", id)
                .lines()
                .getFirst();
        assertThat(reject.get("place").asString()).isEqualTo("register old_cairn, record 2");
        Path job = NACHLAUF.write(
                "query-job.yaml",
                JOB.formatted(
                                "query",
                                "register",
                                "query: select 'query' || code as code, stones from old_cairn where stones > :least")
                        .replace("read:", "parameters: { least: { is: integer, default: 2 } }\nread:"));
        assertThat(NACHLAUF.client("job", "save", job.toString()).err()).doesNotContain("malformed");
        run("query", "--set", "least=2");
        assertThat(cairns("query")).isEqualTo("queryrecC3");
    }

    @Test
    void aSourceThatIsNotThereIsSaid() {
        Result missing = NACHLAUF.client("source", "preview", "nothing.xml", "--connection", "guides");
        assertThat(missing.status()).isEqualTo(1);
        assertThat(missing.err()).contains("No file nothing.xml is in guides");
        assertThat(NACHLAUF.client("source", "preview").status()).isEqualTo(2);
        assertThat(NACHLAUF.client("source", "preview", "--records", "hut").status())
                .isEqualTo(2);
        Result unknown = NACHLAUF.client("source", "preview", "--connection", "register", "--records", "huts");
        assertThat(unknown.status()).isEqualTo(1);
        assertThat(unknown.err()).contains("no record type huts");
    }

    /** The pairs that the demo's jobs map, by hand: at least nine in ten are what is suggested. */
    @Test
    void fieldsOfTheDemosFilesAreSuggestedForItsTables() {
        List<String> wanted = List.of(
                "hut Hut no.>hut_code",
                "hut name>name",
                "hut category>category",
                "hut height>height_m",
                "hut beds>beds",
                "hut winter room>winter_room",
                "hut opens>opens",
                "hut closes>closes",
                "hut price>price",
                "hut phone>phone",
                "stay stay no>stay_no",
                "stay hut>hut_code",
                "stay guest>guest",
                "stay category>category",
                "stay arrival>arrival",
                "stay nights>nights",
                "stay price>price",
                "supply_order root.order_no>order_no",
                "supply_order root.hut.code>hut_code",
                "supply_order root.wanted_by>wanted_by",
                "supply_order root.urgent>urgent",
                "supply_line line>line_no",
                "supply_line article>article",
                "supply_line kg>kg");
        String orders = FILES.resolve("drop/supply-orders-2026.jsonl").toString();
        List<String> found = new java.util.ArrayList<>();
        found.addAll(suggested("hut", FILES.resolve("spring-list-2026.xlsx").toString()));
        found.addAll(suggested("stay", FILES.resolve("stays-2026.csv").toString()));
        found.addAll(suggested("supply_order", orders, "--option", "record=lines"));
        found.addAll(suggested("supply_line", orders, "--option", "record=lines"));
        List<String> missed =
                wanted.stream().filter(pair -> !found.contains(pair)).toList();
        assertThat(missed).as("not suggested").hasSizeLessThanOrEqualTo(wanted.size() / 10);
        assertThat(NACHLAUF.client(
                                "job",
                                "suggest",
                                FILES.resolve("stays-2026.csv").toString(),
                                "--into",
                                "register",
                                "stay")
                        .out())
                .contains("stay no", "stay_no", "names 100 % alike");
    }

    private static List<String> suggested(String records, String file, String... more) {
        List<String> words = new java.util.ArrayList<>(
                List.of("--output", "json", "job", "suggest", file, "--into", "register", records));
        words.addAll(List.of(more));
        return NACHLAUF.client(words.toArray(String[]::new)).lines().stream()
                .map(pair -> records + " " + pair.get("source").asString() + ">"
                        + pair.get("target").asString())
                .toList();
    }
}
