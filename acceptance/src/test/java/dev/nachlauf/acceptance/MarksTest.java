package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Our own marks on fields: what is not to be written is refused, what is sensitive is not shown. */
class MarksTest {
    private static final Installation NACHLAUF = Installation.shared();
    private static final String JOB = """
            nachlauf: 1
            job: members
            read: { connection: wardens-inbox, file: members.csv }
            steps:
              - set: { called: name }
              - rule: char_length(card) = 5
                message: A card has five characters
            write:
              connection: marked
              records: member
              action: upsert
              key: [card]
              map:
                card: card
                name: called
                paid: paid
            """;

    @BeforeAll
    static void mark() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register,
                "CREATE TABLE member (card text PRIMARY KEY, name varchar(12), paid numeric(6,2), note text)");
        NACHLAUF.write(
                "marked.yaml",
                Installation.read(NACHLAUF.home.resolve("register.yaml"))
                                .replace("connection: register", "connection: marked")
                        + """
                marks:
                  member:
                    name: { sensitive: true, label: Name of the member }
                    note: { written: false, help: Only the office writes notes }
                    fone: { sensitive: true }
                """);
        assertThat(NACHLAUF.client(
                                "connection",
                                "save",
                                NACHLAUF.home.resolve("marked.yaml").toString())
                        .status())
                .isZero();
    }

    @Test
    void theFieldsShowTheirMarks() {
        String fields =
                NACHLAUF.client("connection", "fields", "marked", "member").out();
        assertThat(fields.lines().filter(line -> line.startsWith("name")).findFirst())
                .hasValueSatisfying(line -> assertThat(line).contains("sensitive", "Name of the member"));
        assertThat(fields.lines().filter(line -> line.startsWith("note")).findFirst())
                .hasValueSatisfying(line -> assertThat(line)
                        .contains("the connection marks it as not to be written", "Only the office writes notes"));
    }

    @Test
    void aFieldThatIsNotToBeWrittenIsRefusedAndAnUnknownMarkSaid() {
        String file = NACHLAUF.write("members-note.yaml", JOB.replace("paid: paid", "note: paid"))
                .toString();
        Result check = NACHLAUF.client("job", "check", file);
        assertThat(check.status()).isEqualTo(1);
        assertThat(check.out()).contains("[target-field-read-only]", "[mark-unknown]", "marks member.fone");
    }

    @Test
    void valuesOfASensitiveFieldAreNeverShown() {
        NACHLAUF.client("job", "save", NACHLAUF.write("members.yaml", JOB).toString());
        String file = NACHLAUF.write(
                        "members.csv",
                        "card;name;paid\nM-001;Föhrenstein;10.00\nM-002;Larchenfeldner;10.00\nM-3;Tannwald;10.00\n")
                .toString();
        Result run = NACHLAUF.client("--output", "json", "run", "start", "members", "--follow", "--file", file);
        assertThat(run.status()).isEqualTo(3);
        String id = run.json().get("id").asString();
        assertThat(NACHLAUF.count("SELECT name FROM member")).isEqualTo("Föhrenstein");

        String ledger = NACHLAUF.client("--output", "json", "run", "ledger", id, "--outcome", "inserted")
                .out();
        assertThat(ledger).contains("•••", "10.00").doesNotContain("Föhrenstein");
        String rejects = NACHLAUF.client("--output", "json", "rejects", "list", "--run", id)
                .out();
        assertThat(rejects)
                .contains("too-long", "rule-failed", "M-002", "M-3", "•••", "10.00")
                .doesNotContain("Larchenfeldner", "Tannwald");
    }
}
