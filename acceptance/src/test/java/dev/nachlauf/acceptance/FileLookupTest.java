package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Lookups among the rows of files: the real service over a real database, through the client. */
class FileLookupTest {
    private static final Installation NACHLAUF = Installation.shared();
    private static final String JOB = """
            nachlauf: 1
            job: rations
            parameters: { season: { is: integer, default: 2026 } }
            read: { connection: wardens-inbox, file: rations.csv }
            steps:
              - lookup: listed
                connection: wardens-inbox
                file: ration-list-${season}.csv
                fields: { kcal: { is: integer }, price: { is: decimal, locale: de } }
                match: { article: lower(trim(article)) }
                bring: [kcal, price, crate]
              - set: { crate: "crosswalk('crate', listed.crate)" }
            write:
              connection: register
              records: ration
              action: upsert
              key: [ration_no]
              map: { ration_no: no, kcal: listed.kcal, price: listed.price, crate: crate }
            examples:
              - given: { no: '1', article: Bread }
                lookups: { listed: { kcal: '250', price: '1.20', crate: red } }
                becomes: { ration_no: '1', kcal: '250', price: '1.2', crate: R }
            """;
    private static final String LIST =
            "article;kcal;price;crate\nbread;250;1,20;red\ncheese;410;4,05;blue\nsoup;90;0,80;red\n";
    private static final String RATIONS = "no;article\n1;Bread\n2; CHEESE\n3;soap\n4;soup\n";

    @BeforeEach
    void listAndTable() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register,
                "CREATE TABLE IF NOT EXISTS ration (ration_no integer PRIMARY KEY, kcal integer, price numeric(6,2), crate text);"
                        + " TRUNCATE ration");
        list(LIST);
        NACHLAUF.save("crosswalk", "crate", "nachlauf: 1\ncrosswalk: crate\nentries:\n  - { from: red, to: R }\n");
        NACHLAUF.save("job", "rations", JOB);
    }

    private static Path list(String text) {
        return NACHLAUF.write("inbox/ration-list-2026.csv", text);
    }

    private static Result load() {
        String file = NACHLAUF.write("rations.csv", RATIONS).toString();
        return NACHLAUF.client("--output", "json", "run", "start", "rations", "--follow", "--file", file);
    }

    private static List<String> rejects(String run) {
        return NACHLAUF.client("--output", "json", "rejects", "list", "--run", run).lines().stream()
                .map(reject -> {
                    JsonNode problem = reject.get("problems").get(0);
                    return reject.get("row").asLong() + " "
                            + problem.get("code").asString() + " "
                            + problem.get("sentence").asString();
                })
                .toList();
    }

    @Test
    void rowsOfAFileAreFoundByKeyAndWhatIsNotThereIsSaid() {
        Result run = load();
        assertThat(run.status()).isEqualTo(3);
        assertThat(
                        NACHLAUF.count(
                                "SELECT string_agg(ration_no || ':' || kcal || ':' || price || ':' || crate, ' ' ORDER BY 1) FROM ration"))
                .isEqualTo("1:250:1.20:R 4:90:0.80:R");
        String id = run.json().get("id").asString();
        assertThat(rejects(id))
                .hasSize(2)
                .anySatisfy(reject -> assertThat(reject).startsWith("2 no-translation"))
                .contains("3 lookup-none No record of ration-list-2026.csv has article = soap.");
        JsonNode files = run.json().get("files");
        assertThat(files.size()).isEqualTo(2);
        assertThat(files.get(0).get("name").asString()).isEqualTo("rations.csv");
        assertThat(files.get(0).get("lookedUp").asBoolean()).isFalse();
        assertThat(files.get(1).get("name").asString()).isEqualTo("ration-list-2026.csv");
        assertThat(files.get(1).get("lookedUp").asBoolean()).isTrue();
    }

    @Test
    void whatARunFoundStaysWhatItFound() throws IOException {
        String id = load().json().get("id").asString();
        Files.delete(list("article;kcal;price;crate\nbread;1;1;green\n"));
        // the gaps of a run are those of its kept rows, among which the file is that it looked records up in
        assertThat(NACHLAUF.client("--output", "json", "crosswalk", "gaps", "--run", id)
                        .lines())
                .singleElement()
                .satisfies(gap -> assertThat(gap.get("value").asString()).isEqualTo("blue"));
    }

    @Test
    void aFileThatIsNotThereOrLacksAColumnIsFoundWhenTheJobIsChecked() throws IOException {
        list("artikel;kcal;price;crate\n");
        Result check = NACHLAUF.client(
                "job", "check", NACHLAUF.write("rations.yaml", JOB).toString());
        assertThat(check.status()).isEqualTo(1);
        assertThat(check.out() + check.err())
                .contains("ration-list-2026.csv has no field article.", "Did you mean artikel?");
        Files.delete(NACHLAUF.home.resolve("inbox/ration-list-2026.csv"));
        Result missing = NACHLAUF.client(
                "job", "check", NACHLAUF.write("rations.yaml", JOB).toString());
        assertThat(missing.out() + missing.err()).contains("No file ration-list-2026.csv is in wardens-inbox.");
    }

    @Test
    void aCellThatCannotBeReadFailsTheRunBeforeAnythingIsWritten() {
        list(LIST + "rope;many;1,00;red\n");
        Result run = load();
        assertThat(run.status()).isEqualTo(1);
        assertThat(run.json().get("state").asString()).isEqualTo("failed");
        JsonNode reason = run.json().get("reasons").get(0);
        assertThat(reason.get("code").asString()).isEqualTo("lookup-file");
        assertThat(reason.get("sentence").asString()).contains("ration-list-2026.csv, line 5", "'many'");
        assertThat(NACHLAUF.count("SELECT count(*) FROM ration")).isEqualTo("0");
    }
}
