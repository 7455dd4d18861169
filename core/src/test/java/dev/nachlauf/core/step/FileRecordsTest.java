package dev.nachlauf.core.step;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Scope;
import dev.nachlauf.core.job.JobDefinition.Format;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.job.Step.Among;
import dev.nachlauf.core.plan.PlannedStep.FileField;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.PlannedStep.Key;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.source.Rows;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class FileRecordsTest {
    private static final List<SourceColumn> COLUMNS = List.of(
            column("article", Reading.TEXT),
            column("size", new Reading(Kind.DECIMAL, null, "de")),
            column("number", new Reading(Kind.INTEGER, null, null)),
            column("since", new Reading(Kind.DATE, "dd.MM.yyyy", null)));

    @TempDir
    private Path scratch;

    private static SourceColumn column(String name, Reading reading) {
        return new SourceColumn(new SourceField(name, name), reading, "");
    }

    private static Finding finding(List<String> key, List<Field> wanted) {
        Placed<String> nowhere = new Placed<>("", Place.NOWHERE);
        Among file =
                new Among.File(nowhere, nowhere, new Format(Optional.empty(), Map.of()), List.of(), List.of(), false);
        Formula any = new Formula(FormulaSource.of("1"), Optional.of(Kind.INTEGER), List.of(), row -> 1L, List.of());
        return new Finding(
                file,
                "articles.csv",
                key.stream().map(name -> new Key(name, Kind.TEXT, any, false)).toList(),
                wanted);
    }

    private static FileField made(String name, String formula) {
        Shape shape = new Shape(COLUMNS.stream()
                .map(column -> new Field(column.name(), column.reading().kind()))
                .toList());
        return new FileField(
                name,
                Formula.check(FormulaSource.of(formula), Scope.of(shape), new ArrayList<>())
                        .orElseThrow());
    }

    private static Finding making(Finding found, FileField... made) {
        return new Finding(found.among(), found.records(), found.keys(), found.fields(), List.of(made));
    }

    private FileRecords articles(Finding finding, String... rows) {
        Rows file = new Rows("articles.csv", "article;size;number;since", List.of(rows), "");
        return FileRecords.read(FileRecords.Wanted.of(finding), COLUMNS, file, scratch);
    }

    private static List<String> found(FileRecords records, Object[]... keys) {
        return records.find(List.of(keys)).stream()
                .map(found -> found.matches() + " " + List.of(found.values()))
                .toList();
    }

    private static final List<Field> NUMBER = List.of(new Field("number", Kind.INTEGER));

    @Test
    void textsAreComparedExactlyAndNumbersWithoutTheirScale() {
        try (FileRecords records = articles(
                finding(List.of("article", "size"), List.of(NUMBER.getFirst(), new Field("since", Kind.DATE))),
                "rope;10,50;7;01.05.2026",
                "Rope;10,50;8;02.05.2026",
                "ropes;1;9;")) {
            assertThat(found(
                            records,
                            new Object[] {"rope", new BigDecimal("10.5")},
                            new Object[] {"ROPE", new BigDecimal("10.5")},
                            new Object[] {"rope", new BigDecimal("10.51")}))
                    .containsExactly("1 [7, " + LocalDate.of(2026, 5, 1) + "]", "0 []", "0 []");
        }
    }

    @Test
    void fieldsThatAreMadeOfTheFileAreMatchedAndBrought() {
        Finding finding = finding(List.of("code"), List.of(new Field("doubled", Kind.INTEGER)));
        try (FileRecords records = articles(
                making(finding, made("code", "upper(trim(article))"), made("doubled", "number * 2")),
                " rope ;x;7;y",
                "Rope;1;8;")) {
            assertThat(found(records, new Object[] {"ROPE"}, new Object[] {" rope "}))
                    .as("cells that nobody wants need not be readable")
                    .containsExactly("2 [14]", "0 []");
        }
        assertThatThrownBy(() ->
                        articles(making(finding, made("code", "article"), made("doubled", "1 / number")), "a;1;0;"))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.LOOKUP_FILE));
    }

    @Test
    void aMadeFieldTakesThePlaceOfTheColumnOfItsName() {
        try (FileRecords records =
                articles(making(finding(List.of("article"), NUMBER), made("article", "lower(article)")), "ROPE;;3;")) {
            assertThat(found(records, new Object[] {"rope"}, new Object[] {"ROPE"}))
                    .containsExactly("1 [3]", "0 []");
        }
    }

    @Test
    void caseIsIgnoredWhereTheJobSaysSo() {
        Finding exact = finding(List.of("article"), NUMBER);
        Among.File file = (Among.File) exact.among();
        Among ignoring =
                new Among.File(file.connection(), file.file(), file.format(), file.fields(), file.sets(), true);
        try (FileRecords records =
                articles(new Finding(ignoring, "articles.csv", exact.keys(), exact.fields()), "RöPE;;3;", "rope;;4;")) {
            assertThat(found(records, new Object[] {"rÖpe"}, new Object[] {"Rope"}, new Object[] {"ropes"}))
                    .containsExactly("1 [3]", "1 [4]", "0 []");
        }
    }

    @Test
    void aRowWithoutAKeyIsNeverFoundAndTheFirstOfSeveralCounts() {
        try (FileRecords records =
                articles(finding(List.of("article"), NUMBER), ";;1;", ";;2;", "rope;;3;", "rope;;4;")) {
            assertThat(found(records, new Object[] {""}, new Object[] {"rope"})).containsExactly("0 []", "2 [3]");
        }
    }

    @Test
    void aCellThatCannotBeReadEndsTheLoadWithItsPlace() {
        assertThatThrownBy(() -> articles(finding(List.of("article"), NUMBER), "rope;;3;", "lamp;;four;"))
                .isInstanceOfSatisfying(CannotGoOn.class, e -> {
                    assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.LOOKUP_FILE);
                    assertThat(e.problems().getFirst().sentence())
                            .contains("articles.csv, line 3")
                            .contains("'four'");
                });
    }

    @Test
    void aCellThatNobodyWantsMayBeAnything() {
        try (FileRecords records = articles(finding(List.of("article"), NUMBER), "rope;much;3;some day")) {
            assertThat(found(records, new Object[] {"rope"})).containsExactly("1 [3]");
        }
    }
}
