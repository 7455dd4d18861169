package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Bad input gets a clear answer with its place and remedy, and nothing is lost. */
class BadInputTest {
    private static final Installation NACHLAUF = Installation.shared();
    private static final String HEADER = "code;name;beds\n";
    private static final String JOB = """
            nachlauf: 1
            job: plain-huts
            read:
              connection: wardens-inbox
              file: plain-huts-*.csv
              format: { as: delimited, delimiter: ;, encoding: utf-8 }
              fields:
                beds: { is: integer }
            write:
              connection: register
              records: plain_hut
              action: upsert
              key: [hut_code]
              map:
                hut_code: code
                name: name
                beds: beds
            """;

    @BeforeAll
    static void saveJob() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register,
                "CREATE TABLE plain_hut (hut_code varchar(6) PRIMARY KEY, name varchar(20) NOT NULL, beds smallint,"
                        + " twice integer GENERATED ALWAYS AS (beds * 2) STORED)");
        assertThat(NACHLAUF.client(
                                "job",
                                "save",
                                NACHLAUF.write("plain-huts.yaml", JOB).toString())
                        .status())
                .isZero();
    }

    private static Result start(byte[] bytes) {
        String file = NACHLAUF.write("plain-huts-x.csv", bytes).toString();
        return NACHLAUF.client("--output", "json", "run", "start", "plain-huts", "--follow", "--file", file);
    }

    private static Result start(String text) {
        return start(text.getBytes(StandardCharsets.UTF_8));
    }

    private static List<String> codes(Result run) {
        String id = run.json().get("id").asString();
        return NACHLAUF.client("--output", "json", "rejects", "list", "--run", id).lines().stream()
                .map(reject -> reject.get("row").asLong() + " "
                        + reject.get("problems").get(0).get("code").asString())
                .toList();
    }

    @Test
    void aMissingFileIsSaidByNameAndPlace() {
        NACHLAUF.client(
                "job",
                "save",
                NACHLAUF.write(
                                "one-hut.yaml",
                                JOB.replace("plain-huts-*", "one-hut").replace("job: plain-huts", "job: one-hut"))
                        .toString());
        Result run = NACHLAUF.client("run", "start", "one-hut", "--follow");
        assertThat(run.status()).isEqualTo(1);
        assertThat(run.out()).contains("No file one-hut.csv is in wardens-inbox.", "file-missing", "--file");
        Result pattern = NACHLAUF.client("run", "start", "plain-huts", "--follow");
        assertThat(pattern.status()).isZero();
        assertThat(pattern.out()).contains("No file is there.", "read 0");
        Result local = NACHLAUF.client("run", "start", "plain-huts", "--file", "/nowhere/huts.csv");
        assertThat(local.status()).isEqualTo(2);
        assertThat(local.err()).contains("There is no file /nowhere/huts.csv");
    }

    @Test
    void anEmptyFileIsRefused() {
        Result run = start("");
        assertThat(run.status()).isEqualTo(1);
        assertThat(run.reasons()).contains("plain-huts-x.csv, line 1: The file is empty.", "file-empty");
    }

    @Test
    void aHeaderWithoutRowsFinishesWithNothingRead() {
        Result run = start(HEADER);
        assertThat(run.status()).isZero();
        assertThat(run.json().get("balance").get("read").asLong()).isZero();
    }

    @Test
    void aWrongDelimiterIsSaidWithTheProbableOne() {
        Result run = start("code,name,beds\nH1,Hut,1\n");
        assertThat(run.status()).isEqualTo(1);
        assertThat(run.reasons()).contains("line 1", "one single field", "probably ','");
    }

    @Test
    void aWrongEncodingRejectsTheRowsItTouches() {
        Result run = start((HEADER + "E1;Hut;1\nE2;Föhren;2\n").getBytes(Charset.forName("windows-1252")));
        assertThat(codes(run)).containsExactly("2 file-encoding");
        assertThat(NACHLAUF.count("SELECT count(*) FROM plain_hut WHERE hut_code LIKE 'E%'"))
                .isEqualTo("1");
    }

    @Test
    void aMissingKeyColumnIsSaidAtTheFormulaThatNeedsIt() {
        Result run = start("hut;name;beds\nH1;Hut;1\n");
        assertThat(run.status()).isEqualTo(1);
        assertThat(run.reasons()).contains("plain-huts, line 15, column 15: There is no field code here.", "^^^^");
    }

    @Test
    void badRowsAreRejectedOneByOneAndGoodOnesWritten() {
        Result run = start(HEADER
                + "R1;Hut;1\n"
                + ";No key;2\n"
                + "R3;A name that is longer than twenty;3\n"
                + "R4;Hut;many\n"
                + "R5;Hut;99999\n"
                + "R6;;6\n"
                + "R7;Twin;7\n"
                + "R7;Twin;8\n"
                + "R9;Hut\n"
                + "TOOLONG;Hut;9\n"
                + "R11;Hut;11\n");
        assertThat(run.status()).isEqualTo(3);
        assertThat(codes(run))
                .containsExactly(
                        "2 key-empty",
                        "3 too-long",
                        "4 value-malformed",
                        "5 out-of-range",
                        "6 required-empty",
                        "7 key-repeated",
                        "8 key-repeated",
                        "9 row-ragged",
                        "10 too-long");
        assertThat(NACHLAUF.count(
                        "SELECT string_agg(hut_code, ' ' ORDER BY hut_code) FROM plain_hut WHERE hut_code LIKE 'R%'"))
                .isEqualTo("R1 R11");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "name: name§nam: name§target-field-unknown§line 16§Did you mean name?",
                "beds: beds§twice: beds§target-field-read-only§line 17§can't be written: the database computes it",
                "name: name§name: uper(name)§function-unknown§line 16§Did you mean upper?",
                "name: name§name: 'x'§yaml-trap§line 16§Put parentheses around it",
                "key: [hut_code]§keys: [hut_code]§key-unknown§line 13§Did you mean key?",
                "key: [hut_code]§key: [hut_cod]§target-field-unknown§line 13§Did you mean hut_code?",
                "records: plain_hut§records: plain_hat§records-unknown§line 11§Did you mean plain_hut?",
                "connection: register§connection: registre§connection-unknown§line 10§Did you mean register?",
                "connection: register§connection: wardens-inbox§connection-unfit§line 10§can't be written to",
                "as: delimited§as: delimted§value-wrong-kind§line 6§Did you mean delimited?",
                "delimiter: ;§delimeter: ;§key-unknown§line 6§Did you mean delimiter?",
                "name: name§phone: name§target-field-unknown§line 16§Fields:",
                "  name: name§  beds: beds§name-taken§line 17§Keep one.",
            })
    void aJobWithErrorsIsRefusedWithPlaceAndRemedy(String old, String wrong, String code, String line, String remedy) {
        String file = NACHLAUF.write("wrong.yaml", JOB.replace(old, wrong)).toString();
        Result check = NACHLAUF.client("job", "check", file);
        assertThat(check.status()).isEqualTo(1);
        assertThat(check.out()).contains("wrong.yaml, " + line, "[" + code + "]", remedy);
        Result save = NACHLAUF.client("job", "save", file);
        assertThat(save.status()).isEqualTo(1);
        assertThat(save.err()).contains(code);
    }

    @Test
    void aSoundJobSaysWhatItWasCheckedAgainst() {
        String file = NACHLAUF.home.resolve("plain-huts.yaml").toString();
        Result check = NACHLAUF.client("job", "check", file);
        assertThat(check.status()).isZero();
        assertThat(check.out()).contains("source-unseen", "target register plain_hut (4 fields)");
        assertThat(NACHLAUF.clientAt("http://127.0.0.1:1", "job", "check", "--offline", file)
                        .status())
                .isZero();
    }

    @Test
    void aJobWithSharedStepsIsCheckedOfflineWithThem() {
        String job = NACHLAUF.write(
                        "shared-steps.yaml",
                        JOB.replace("plain-huts\n", "shared-steps\npieces: [tidy]\n")
                                .replace("write:\n", "steps:\n  - include: open-ones\nwrite:\n"))
                .toString();
        String pieces = NACHLAUF.write("tidy.yaml", """
                        nachlauf: 1
                        pieces: tidy
                        steps:
                          open-ones:
                            - where: name is not null
                        """).toString();
        Result alone = NACHLAUF.clientAt("http://127.0.0.1:1", "job", "check", "--offline", job);
        assertThat(alone.status()).isEqualTo(1);
        assertThat(alone.err()).contains("[piece-unknown]", "open-ones");
        Result together = NACHLAUF.clientAt("http://127.0.0.1:1", "job", "check", "--offline", "--pieces", pieces, job);
        assertThat(together.status()).as(together.err()).isZero();
        assertThat(together.err()).contains("the file is sound in itself");
    }

    @Test
    void aDraftIsKeptButCantBeStarted() {
        String draft = JOB.replace("plain-huts\n", "half-done\n").replace("name: name", "name: uper(name)");
        String file = NACHLAUF.write("half-done.yaml", draft).toString();
        assertThat(NACHLAUF.client("job", "save", "--draft", file).out())
                .contains("saved half-done version 1 as a draft");
        Result start = NACHLAUF.client("run", "start", "half-done");
        assertThat(start.status()).isEqualTo(1);
        assertThat(start.err()).contains("job-draft");
    }

    @Test
    void aTargetThatIsDownIsSaidAtOnce() {
        String down = "nachlauf: 1\nconnection: down\ntype: postgresql\nsettings: { port: 1, database: x, user: x }\n";
        assertThat(NACHLAUF.client(
                                "connection",
                                "save",
                                NACHLAUF.write("down.yaml", down).toString())
                        .status())
                .isZero();
        Result test = NACHLAUF.client("connection", "test", "down");
        assertThat(test.status()).isEqualTo(1);
        assertThat(test.out()).contains("PostgreSQL at 127.0.0.1:1 can't be reached", "unreachable");
        String job = JOB.replace("connection: register", "connection: down");
        assertThat(NACHLAUF.client(
                                "job",
                                "check",
                                NACHLAUF.write("down-job.yaml", job).toString())
                        .out())
                .contains("unreachable");
    }

    @Test
    void aConnectionWithAPlainSecretIsRefused() {
        String unsafe =
                "nachlauf: 1\nconnection: unsafe\ntype: postgresql\nsettings:\n  database: x\n  user: x\n  password: hunter2\n  prot: 1\n";
        Result save = NACHLAUF.client(
                "connection", "save", NACHLAUF.write("unsafe.yaml", unsafe).toString());
        assertThat(save.status()).isEqualTo(1);
        assertThat(save.err())
                .contains("A secret never stands in a connection.", "secret-unsafe", "Did you mean port?");
        assertThat(Installation.read(NACHLAUF.log())).doesNotContain("hunter2");
    }

    @Test
    void theServiceSaysWhatIsWrongWhenItsDatabaseIsDown() {
        Result result = Programs.run(
                Programs.service(List.of()),
                Map.of(
                        "NACHLAUF_DB_URL",
                        "jdbc:postgresql://127.0.0.1:1/nachlauf",
                        "NACHLAUF_HOME",
                        NACHLAUF.home.toString()));
        assertThat(result.status()).isEqualTo(1);
        assertThat(result.err().lines()).hasSize(1);
        assertThat(result.err()).contains("jdbc:postgresql://127.0.0.1:1/nachlauf", "NACHLAUF_DB_URL");
    }
}
