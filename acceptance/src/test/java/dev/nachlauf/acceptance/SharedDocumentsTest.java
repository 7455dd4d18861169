package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Crosswalks and pieces as documents that jobs share: versions, what a change touches, and what runs keep of them. */
class SharedDocumentsTest {
    private static final Installation NACHLAUF = Installation.shared();
    private static final String PAINTS = """
            nachlauf: 1
            crosswalk: paint
            title: Paints of the blazes
            entries:
              - { from: red, to: R }
              - { from: red, to: S1, scope: SEE }
              - { range: 100..199, to: H }
              - { like: 'dark*', to: D }
            """;
    private static final String MARKS = """
            nachlauf: 1
            pieces: mark-pieces
            formulas:
              mark_no: { takes: { raw: text }, is: upper(trim(raw)) }
            """;
    private static final String JOB = """
            nachlauf: 1
            job: blazes
            pieces: [mark-pieces]
            read: { connection: wardens-inbox, file: blazes.csv }
            steps:
              - whole-load: count() > 4
                message: A list has more than four blazes
            write:
              connection: register
              records: blaze
              action: upsert
              key: [mark_no]
              map: { mark_no: mark_no(no), paint: "crosswalk('paint', paint, region)" }
            """;

    @BeforeEach
    void documents() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register, "CREATE TABLE IF NOT EXISTS blaze (mark_no text PRIMARY KEY, paint text)");
        NACHLAUF.write(
                "inbox/blazes.csv", "no;paint;region\n a-1;red;SEE\na-2;red;TAN\na-3;150;\na-4;darkness;\na-5;pink;\n");
        save("crosswalk", "paint.yaml", PAINTS);
        save("pieces", "mark-pieces.yaml", MARKS);
        save("job", "blazes.yaml", JOB);
    }

    private static Result save(String group, String name, String document) {
        Result saved =
                NACHLAUF.client(group, "save", NACHLAUF.write(name, document).toString());
        assertThat(saved.status()).as(saved.err()).isZero();
        return saved;
    }

    private static JsonNode run() {
        String file = NACHLAUF.home.resolve("inbox/blazes.csv").toString();
        return NACHLAUF.client("--output", "json", "run", "start", "blazes", "--follow", "--file", file)
                .json();
    }

    private static long version(String group, String name) {
        return NACHLAUF.client("--output", "json", group, "list").lines().stream()
                .filter(document -> document.get("name").asString().equals(name))
                .findFirst()
                .orElseThrow()
                .get("version")
                .asLong();
    }

    @Test
    void theSameTextTwiceIsOneVersionAndAnotherOneIsANewOne() {
        long version = version("crosswalk", "paint");
        save("crosswalk", "paint.yaml", PAINTS);
        assertThat(version("crosswalk", "paint")).isEqualTo(version);
        save("crosswalk", "paint.yaml", PAINTS.replace("to: H", "to: HUNDRED"));
        assertThat(version("crosswalk", "paint")).isEqualTo(version + 1);
        Result shown = NACHLAUF.client("crosswalk", "show", "paint");
        assertThat(shown.out()).contains("to: HUNDRED").startsWith("nachlauf: 1");
        assertThat(NACHLAUF.client("crosswalk", "list").out()).contains("paint", "Paints of the blazes");
        assertThat(NACHLAUF.client("pieces", "show", "mark-pieces").out()).contains("upper(trim(raw))");
        assertThat(NACHLAUF.client("crosswalk", "show", "pain").err()).contains("There is no crosswalk pain.");
    }

    @Test
    void theScopesTableComesFirstAndEveryKindOfEntryIsTold() {
        record Case(String value, String scope, String becomes, String because) {}
        for (Case one : List.of(
                new Case("red", "SEE", "red → S1", "by from: red"),
                new Case("red", "TAN", "red → R", "by from: red"),
                new Case("150", "SEE", "150 → H", "by range: "),
                new Case("darkness", "", "darkness → D", "by like: dark*"))) {
            Result tried = one.scope.isEmpty()
                    ? NACHLAUF.client("crosswalk", "try", "paint", one.value)
                    : NACHLAUF.client("crosswalk", "try", "paint", one.value, "--scope", one.scope);
            assertThat(tried.out()).as(one.toString()).contains(one.becomes, one.because);
        }
        Result none = NACHLAUF.client("crosswalk", "try", "paint", "pink");
        assertThat(none.status()).isEqualTo(1);
        assertThat(none.err()).contains("has no translation of 'pink'");
    }

    @Test
    void aChangeOfPiecesNamesTheJobsThatItTouchesAndThoseItBreaks() {
        Result harmless = save("pieces", "mark-pieces.yaml", MARKS.replace("upper(trim(raw))", "trim(upper(raw))"));
        assertThat(harmless.out()).contains("used by blazes").doesNotContain("has errors now");
        Result breaking = save("pieces", "mark-pieces.yaml", MARKS.replace("raw: text }", "raw: text, by: integer }"));
        assertThat(breaking.out()).contains("blazes has errors now:", "blazes, line ");
    }

    @Test
    void aRunKeepsTheVersionsItWasStartedWith() {
        JsonNode first = run();
        String id = first.get("id").asString();
        assertThat(NACHLAUF.count("SELECT string_agg(mark_no || '=' || paint, ' ' ORDER BY mark_no) FROM blaze"))
                .isEqualTo("A-1=S1 A-2=R A-3=H A-4=D");
        assertThat(first.get("openRejects").asLong()).isEqualTo(1);
        save("pieces", "mark-pieces.yaml", MARKS.replace("upper(trim(raw))", "\"'X-' || upper(trim(raw))\""));
        // the gaps of a run: its rows and its pieces as they were, the crosswalks as they are now
        assertThat(NACHLAUF.client("--output", "json", "crosswalk", "gaps", "--run", id)
                        .lines())
                .singleElement()
                .satisfies(gap -> {
                    assertThat(gap.get("value").asString()).isEqualTo("pink");
                    assertThat(gap.get("crosswalk").asString()).isEqualTo("paint");
                });
        run();
        assertThat(NACHLAUF.count("SELECT count(*) FROM blaze WHERE mark_no LIKE 'X-%'"))
                .as("a new run takes the newest version")
                .isEqualTo("4");
    }

    @Test
    void gapsAreFoundBeforeAnyRun() {
        String file = NACHLAUF.write(
                        "later.csv", "no;paint;region\nb-1;pink;SEE\nb-2;RED;TAN\nb-3;pink;\nb-4;red;SEE\n")
                .toString();
        assertThat(NACHLAUF.client("--output", "json", "crosswalk", "gaps", "--job", "blazes", "--file", file)
                        .lines())
                .as("by the job, with its scopes")
                .extracting(SharedDocumentsTest::gap)
                .containsExactly(
                        "paint/TAN/RED 1 later.csv, line 3",
                        "paint//pink 1 later.csv, line 4",
                        "paint/SEE/pink 1 later.csv, line 2");
        assertThat(NACHLAUF.client("--output", "json", "crosswalk", "gaps", "--file", file, "--field", "paint")
                        .lines())
                .as("by the crosswalks with which jobs translate such a field")
                .extracting(SharedDocumentsTest::gap)
                .containsExactly("paint//pink 2 later.csv, line 2", "paint//RED 1 later.csv, line 3");
        Result source = NACHLAUF.client("crosswalk", "gaps", "--job", "blazes");
        assertThat(source.status()).as("findings").isEqualTo(1);
        assertThat(source.out()).as("in what the job reads now").contains("pink", "blazes.csv, line 6");
        Result none = NACHLAUF.client("crosswalk", "gaps", "--file", file, "--field", "no");
        assertThat(none.status()).isEqualTo(1);
        assertThat(none.err()).contains("No saved job translates a field no", "Name the crosswalk.");
        assertThat(NACHLAUF.client("crosswalk", "gaps", "--file", file).status())
                .as("the words of the call are wrong")
                .isEqualTo(2);
    }

    private static String gap(JsonNode gap) {
        return gap.get("crosswalk").asString() + "/" + gap.get("scope").asString() + "/"
                + gap.get("value").asString() + " " + gap.get("rows").asLong() + " "
                + gap.get("examples").get(0).asString();
    }

    @Test
    void aTranslationIsAddedToTheTableOfAScope() {
        Result added = NACHLAUF.client("crosswalk", "add", "paint", "green", "S2", "--scope", "SEE");
        assertThat(added.status()).as(added.err()).isZero();
        assertThat(NACHLAUF.client("crosswalk", "try", "paint", "green", "--scope", "SEE")
                        .out())
                .contains("green → S2");
        assertThat(NACHLAUF.client("crosswalk", "try", "paint", "green").status())
                .isEqualTo(1);
        assertThat(NACHLAUF.client("crosswalk", "show", "paint").out())
                .as("the rest of the document stays as it was")
                .contains("title: Paints of the blazes", "- { like: 'dark*', to: D }");
    }

    @Test
    void aBrokenDocumentIsRefusedWithItsPlaceAndNothingIsKept() {
        long version = version("crosswalk", "paint");
        Result refused = NACHLAUF.client(
                "crosswalk",
                "save",
                NACHLAUF.write("paint.yaml", PAINTS.replace("- { from: red, to: R }", "- { form: red, to: R }"))
                        .toString());
        assertThat(refused.status()).isEqualTo(1);
        assertThat(refused.err()).contains("paint.yaml, line 5", "Did you mean from?");
        assertThat(version("crosswalk", "paint")).isEqualTo(version);
    }

    @Test
    void theSchemaOfJobsIsPublishedByServiceAndClient() {
        JsonNode there = Installation.JSON.readTree(NACHLAUF.get("/jobs/schema").body());
        Result here = NACHLAUF.client("job", "schema");
        assertThat(here.status()).isZero();
        assertThat(Installation.JSON.readTree(here.out())).isEqualTo(there);
        assertThat(there.get("$defs").get("lookup").get("properties").propertyNames())
                .contains("file", "records");
    }
}
