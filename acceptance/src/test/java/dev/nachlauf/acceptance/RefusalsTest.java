package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** One batch with five kinds of database refusals between good rows: each is isolated and explained, the rest is written. */
class RefusalsTest {
    private static final Installation NACHLAUF = Installation.shared();

    @BeforeAll
    static void saveJob() {
        NACHLAUF.cluster.execute(NACHLAUF.register, """
                CREATE TABLE supplier (code text PRIMARY KEY);
                INSERT INTO supplier VALUES ('S1');
                CREATE TABLE airlift (
                    order_no text PRIMARY KEY,
                    supplier text REFERENCES supplier,
                    weight_kg numeric CHECK (weight_kg <= 900),
                    slip_no text UNIQUE,
                    flown date CONSTRAINT not_sunday CHECK (extract(dow FROM flown) <> 0),
                    label text);
                INSERT INTO airlift VALUES ('O-0', 'S1', 1, 'taken', null, 'x');
                CREATE FUNCTION no_fire() RETURNS trigger LANGUAGE plpgsql AS
                  $$ BEGIN IF NEW.label = 'fire' THEN RAISE EXCEPTION 'no fire on board'; END IF; RETURN NULL; END $$;
                CREATE TRIGGER no_fire AFTER INSERT ON airlift FOR EACH ROW EXECUTE FUNCTION no_fire();""");
        NACHLAUF.write("orders.yaml", """
                nachlauf: 1
                job: orders
                read:
                  connection: wardens-inbox
                  file: orders.csv
                write:
                  connection: register
                  records: airlift
                  action: upsert
                  key: [order_no]
                  map: { order_no: order_no, supplier: supplier, weight_kg: weight, slip_no: slip, flown: flown, label: label }
                """);
        assertThat(NACHLAUF.client(
                                "job",
                                "save",
                                NACHLAUF.home.resolve("orders.yaml").toString())
                        .status())
                .isZero();
    }

    @Test
    void eachRefusalIsIsolatedAndExplained() {
        String csv = "order_no;supplier;weight;slip;flown;label\n"
                + "O-1;S1;100;a1;2026-06-01;good\n"
                + "O-2;S9;100;a2;2026-06-01;no such supplier\n"
                + "O-3;S1;100;a3;2026-06-01;good\n"
                + "O-4;S1;901;a4;2026-06-07;too heavy, and a Sunday\n"
                + "O-5;S1;100;taken;2026-06-01;slip of another order\n"
                + "O-6;S1;100;twin;2026-06-01;twin slip\n"
                + "O-7;S1;100;twin;2026-06-01;twin slip\n"
                + "O-8;S1;100;a8;2026-06-01;fire\n"
                + "O-9;S1;100;a9;2026-06-01;good\n";
        String file = NACHLAUF.write("orders.csv", csv).toString();
        Result run = NACHLAUF.client("--output", "json", "run", "start", "orders", "--follow", "--file", file);
        assertThat(run.status()).isEqualTo(3);
        assertThat(run.json().get("balance").get("inserted").asLong()).isEqualTo(3);
        assertThat(run.json().get("balance").get("refused").asLong()).isEqualTo(6);
        assertThat(NACHLAUF.count("SELECT string_agg(order_no, ' ' ORDER BY order_no) FROM airlift"))
                .isEqualTo("O-0 O-1 O-3 O-9");
        String id = run.json().get("id").asString();
        List<String> reasons = NACHLAUF.client("--output", "json", "rejects", "list", "--run", id).lines().stream()
                .map(reject -> {
                    StringBuilder text = new StringBuilder(reject.get("key").asString());
                    reject.get("problems")
                            .forEach(problem -> text.append(' ')
                                    .append(problem.get("code").asString())
                                    .append(
                                            problem.path("field").isMissingNode()
                                                    ? ""
                                                    : "(" + problem.get("field").asString() + ")"));
                    return text.toString();
                })
                .toList();
        assertThat(reasons)
                .containsExactly(
                        "O-2 reference-missing(supplier)",
                        "O-4 check-failed(weight_kg) check-failed(flown)",
                        "O-5 not-unique(slip_no)",
                        "O-6 not-unique(slip_no)",
                        "O-7 not-unique(slip_no)",
                        "O-8 refused-by-target");
        assertThat(NACHLAUF.client("rejects", "list", "--run", id).out())
                .contains("There is no supplier with code S9. [reference-missing]");
    }
}
