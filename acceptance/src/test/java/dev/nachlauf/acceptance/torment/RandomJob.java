package dev.nachlauf.acceptance.torment;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** A job, its tables and its source, made of a seed alone. */
final class RandomJob {
    private static final List<String> ACTIONS = List.of("upsert", "upsert", "upsert", "replace", "delete");
    private static final List<String> STEPS = List.of(
            "- where: coalesce(beds, 1) <> 13",
            "- set: { name: upper(trim(name)) }",
            "- set: { note: \"coalesce(note, 'none') || ' ' || code\" }",
            "- rule: beds <= 190\n  message: Too many beds",
            "- rule: price > 1\n  message: Very cheap\n  severity: warning",
            "- duplicates: [code]\n  keep: first",
            "- duplicates: [code]\n  keep: last",
            "- combine: [code]\n  make: { name: first(name), beds: sum(beds), price: max(price), opens: min(opens), valley: first(valley), note: last(note) }",
            "- lookup: home\n  connection: register\n  records: valley\n  match: { code: valley }\n  bring: [title]\n  none: reject");

    final long seed;
    final int rows;
    final boolean ownId;
    /** Whether the first write goes to MariaDB. */
    final boolean mariadb;

    final boolean trigger;
    final boolean reference;
    /** Where a second write goes: nowhere, beside the first, or to another database. */
    final int second;

    final boolean records;
    /** What the first write does with a record. */
    final String action;

    /** What an insert and an update say of rows that meet what they don't expect; empty for other actions. */
    private final String others;

    private final boolean skipped;
    /** Whether a replace marks what is gone, and removes nothing. */
    private final boolean marksGone;

    /** Which of its rows a run is about, as members of its start; empty for all. */
    final String chosen;

    final String limit;
    final List<String> steps = new ArrayList<>();
    /** What becomes of the rows of a group when one of them fails; empty where there are no groups. */
    final String grouping;

    final String csv;
    private final int standing;

    /** Whether a part of the rows lacks the key and is found by another one. */
    final boolean orKey;

    /** Whether a replace is about a part of the table only. */
    private final boolean scoped;

    /** Whether the notes of the first write are sensitive, so that a second person decides about changes to them. */
    final boolean sensitive;

    /** @param given how many rows the source has; 0 for as many as the seed says */
    RandomJob(long seed, int given) {
        this.seed = seed;
        Random random = new Random(seed);
        boolean huge = new Random(seed ^ 0xB16).nextInt(80) == 0;
        int some = random.nextInt(25) == 0 ? 20_000 + random.nextInt(30_000) : 2_000 + random.nextInt(3_000);
        rows = given > 0 ? given : huge ? 200_000 : some;
        ownId = random.nextBoolean();
        trigger = random.nextInt(5) == 0;
        reference = random.nextInt(3) > 0;
        second = Math.max(0, random.nextInt(6) - 3);
        records = random.nextInt(7) == 0;
        String any = ACTIONS.get(random.nextInt(ACTIONS.size()));
        // what is read in part can't replace
        String possible = records && any.equals("replace") ? "upsert" : any;
        limit = random.nextInt(6) == 0 ? "limits: { rejected: " + random.nextInt(4) + "% }\n" : "";
        for (int i = random.nextInt(4); i > 0; i--) {
            String step = STEPS.get(random.nextInt(STEPS.size()));
            if (!steps.contains(step)) {
                steps.add(step);
            }
        }
        standing = rows * random.nextInt(90) / 100;
        boolean lacking = new Random(seed ^ 0x0A7E).nextInt(5) == 0;
        csv = csv(random, lacking);
        mariadb = random.nextInt(3) == 0 && !trigger;
        int grouped = random.nextInt(6);
        grouping = grouped == 0 ? "together" : grouped == 1 ? "alone" : "";
        int one = random.nextInt(8);
        action = !possible.equals("upsert") || one > 1 ? possible : one == 0 ? "insert" : "update";
        others = action.equals("insert") ? "already-there" : action.equals("update") ? "not-found" : "";
        skipped = random.nextBoolean();
        marksGone = action.equals("replace") && random.nextBoolean();
        int part = records ? 2 : random.nextInt(10);
        chosen = part > 1
                ? ""
                : part == 0
                        ? ",\"rows\":\"1-" + rows / 3 + "," + rows / 2 + "-" + rows + "\""
                        : ",\"where\":\"valley <> 'V7'\"";
        boolean keyed = action.equals("upsert") || action.equals("update") || action.equals("insert");
        orKey = lacking && keyed && second == 0 && grouping.isEmpty() && !combines();
        scoped = action.equals("replace") && random.nextInt(3) == 0;
        boolean groupsAlone = grouping.equals("alone") && second > 0;
        sensitive = random.nextInt(6) == 0 && !mariadb && !action.equals("delete") && !groupsAlone;
    }

    /** Whether rows of the source become fewer. */
    boolean combines() {
        return steps.stream().anyMatch(step -> step.contains("combine"));
    }

    private String csv(Random random, boolean lacking) {
        StringBuilder csv = new StringBuilder("code;name;beds;price;opens;valley;note;tag\n");
        for (int n = 1; n <= rows; n++) {
            int at = random.nextInt(2_000);
            int number = at > 2 && at < 20 ? Math.max(1, n - random.nextInt(500)) : n;
            // a record that is named by its tag is named by nothing else
            number = lacking && number % 10 == 7 ? n : number;
            csv.append(at < 3 || lacking && n % 10 == 7 ? "" : code(number)).append(';');
            csv.append(at == 21 ? "N".repeat(60) : " Hut " + random.nextInt(1_000))
                    .append(';');
            csv.append(at < 30 ? "many" : at < 40 ? "-1" : String.valueOf(random.nextInt(200)))
                    .append(';');
            csv.append(random.nextInt(100))
                    .append('.')
                    .append(10 + random.nextInt(at == 41 ? 900 : 90))
                    .append(';');
            csv.append(at == 42 ? "2026-13-01" : "2026-0" + (1 + random.nextInt(9)) + "-1" + random.nextInt(10))
                    .append(';');
            csv.append(at < 50 && at > 42 ? "V99" : "V" + random.nextInt(20)).append(';');
            csv.append(at % 3 == 0 ? "" : "\"said; \"\"" + at + "\"\"\"").append(";" + tag(number) + "\n");
        }
        return csv.toString();
    }

    static String code(int n) {
        return "H-%06d".formatted(n);
    }

    /** What else names the hut of a number. */
    static String tag(int n) {
        return "T-%06d".formatted(n);
    }

    /** The code of the hut that a tag names. */
    static String codeOf(String tag) {
        return code(Integer.parseInt(tag.substring(2)));
    }

    String job() {
        return "job" + Math.floorMod(seed, 1_000_000_000L);
    }

    /** The table's name; the twin is written by an undisturbed run. */
    String table(boolean twin) {
        return (twin ? "twin" : "hut") + Math.floorMod(seed, 1_000_000_000L);
    }

    String notes(boolean twin) {
        return table(twin) + "_note";
    }

    String name(boolean twin) {
        return job() + (twin ? "-twin" : "");
    }

    /** Makes the table that is written to, with records that stand there already. */
    List<String> schema(boolean twin) {
        return mariadb
                ? List.of(mariadbTable(table(twin)), mariadbRecords(table(twin)))
                : List.of(postgresql(table(twin)));
    }

    private String mariadbTable(String table) {
        return "CREATE TABLE " + table + " (" + (ownId ? "id bigint AUTO_INCREMENT PRIMARY KEY, " : "")
                + "code varchar(12) NOT NULL " + (ownId ? "UNIQUE" : "PRIMARY KEY") + ", name varchar(40) NOT NULL,"
                + " beds integer CHECK (beds >= 0), price decimal(9, 2), opens date, valley varchar(8), note text,"
                + " tag varchar(12) UNIQUE,"
                + " touched integer NOT NULL DEFAULT 0"
                + (reference ? ", FOREIGN KEY (valley) REFERENCES valley (code)" : "") + ")";
    }

    private String mariadbRecords(String table) {
        return "INSERT INTO " + table + " (code, name, beds, price, opens, valley, note, tag)"
                + " SELECT concat('H-', lpad(seq * 3, 6, '0')), concat('Hut ', seq % 700), seq % 150, seq % 90 + 0.5,"
                + " date_add('2026-01-01', INTERVAL seq % 200 DAY), concat('V', seq % 20), NULL, concat('T-', lpad(seq * 3, 6, '0')) FROM seq_1_to_"
                + Math.max(1, standing / 3);
    }

    private String postgresql(String table) {
        String sql = "CREATE TABLE " + table + " ("
                + (ownId ? "id bigint GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY, " : "")
                + "code varchar(12) NOT NULL " + (ownId ? "UNIQUE" : "PRIMARY KEY") + ", name varchar(40) NOT NULL,"
                + " beds integer CHECK (beds >= 0), price numeric(9, 2), opens date, valley text"
                + (reference ? " REFERENCES valley (code)" : "")
                + ", note text, tag varchar(12) UNIQUE, touched integer NOT NULL DEFAULT 0);";
        String tidy =
                "CREATE TRIGGER tidy BEFORE INSERT OR UPDATE ON " + table + " FOR EACH ROW EXECUTE FUNCTION tidy();";
        String there = "INSERT INTO " + table
                + " (code, name, beds, price, opens, valley, note, tag) SELECT 'H-' || lpad((n * 3)::text, 6, '0'),"
                + " 'Hut ' || n % 700, n % 150, n % 90 + 0.5, date '2026-01-01' + n % 200, 'V' || n % 20, NULL, 'T-' || lpad((n * 3)::text, 6, '0') FROM generate_series(1, "
                + standing / 3 + ") n;";
        return sql + (trigger ? tidy : "") + there;
    }

    List<String> notesSchema(boolean twin) {
        return List.of("CREATE TABLE " + notes(twin) + " (code varchar(12) PRIMARY KEY, note text, beds integer)");
    }

    /** The source as records of the annex. */
    String source() {
        return "src" + Math.floorMod(seed, 1_000_000_000L);
    }

    /** The job up to what it writes. */
    String beginning(boolean twin) {
        StringBuilder yaml = new StringBuilder("nachlauf: 1\njob: " + name(twin) + "\n");
        yaml.append(
                records
                        ? "read: { connection: annex, records: " + source() + ", changed-since: changed }\n"
                        : "read:\n  connection: inbox\n  file: none.csv\n  fields: { beds: { is: integer }, price: { is: decimal }, opens: { is: date, pattern: yyyy-MM-dd } }\n");
        List<String> all = new ArrayList<>(steps);
        if (!grouping.isEmpty()) {
            all.add("- group: namesakes\n  by: [name]\n  line-fails: " + grouping);
        }
        if (!all.isEmpty()) {
            yaml.append("steps:\n");
            all.forEach(step -> yaml.append(step.indent(2)));
        }
        return yaml.toString();
    }

    String yaml(boolean twin) {
        StringBuilder yaml = new StringBuilder(beginning(twin));
        yaml.append("write:\n  - name: hut\n    connection: ")
                .append(connection())
                .append("\n    records: ")
                .append(table(twin));
        String fields = ", name: name, beds: beds, price: price, opens: opens, valley: valley, note: note";
        yaml.append("\n    action: ").append(action);
        yaml.append(others.isEmpty() ? "" : "\n    " + others + ": " + (skipped ? "skip" : "reject"));
        yaml.append(marksGone ? "\n    gone: deactivate\n    deactivated: { note: ('gone'), beds: 0 }" : "");
        // a list of values is looked for by the target, anything else in all that it holds
        String part = seed % 2 == 0 ? "valley <> 'V3'" : "valley in ('V1', 'V2', 'V4', 'V6', 'V8', 'V9')";
        yaml.append(scoped ? "\n    scope: " + part : "");
        yaml.append("\n    key: [code]").append(orKey ? "\n    or-key: [tag]" : "");
        yaml.append("\n    map: { code: code").append(action.equals("delete") ? "" : fields);
        yaml.append(orKey ? ", tag: tag" : "").append(" }\n");
        if (second > 0) {
            yaml.append("  - name: notes\n    connection: ").append(second == 1 ? connection() : "annex");
            yaml.append("\n    records: ").append(notes(twin));
            yaml.append(grouping.isEmpty() ? "" : "\n    once-per: namesakes");
            yaml.append("\n    action: upsert\n    key: [code]\n    map: { code: code, note: note, beds: beds }\n");
        }
        return yaml.append(limit).toString();
    }

    private String connection() {
        return mariadb ? "mart" : sensitive ? Stage.GUARDED : "register";
    }

    /** Whether a plan of it would need more memory than the services have: later rows may find what it plans by another key. */
    boolean isTooMuchToPlan() {
        return orKey && rows > 50_000;
    }

    /** Whether it removes nothing. */
    boolean isPlain() {
        return action.equals("upsert");
    }

    /** Whether a run can write some of its rows first: none that is planned to its end before. */
    boolean canBegin() {
        return !action.equals("delete") && !action.equals("replace") && limit.isEmpty() && !sensitive;
    }

    @Override
    public String toString() {
        return action + (marksGone ? " that marks" : "") + (scoped ? " of a part" : "") + " of " + rows + " rows"
                + (records ? " of records" : "")
                + (chosen.isEmpty() ? "" : ", some" + chosen) + ", " + steps.size() + " steps, "
                + (second == 0 ? "one write" : second == 1 ? "two writes" : "two databases") + (ownId ? ", ids" : "")
                + (mariadb ? ", MariaDB" : "") + (trigger ? ", trigger" : "") + (reference ? ", reference" : "")
                + (orKey ? ", two keys" : "") + (sensitive ? ", sensitive" : "")
                + (grouping.isEmpty() ? "" : ", groups " + grouping)
                + (limit.isEmpty() ? "" : ", " + limit.strip());
    }
}
