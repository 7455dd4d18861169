package dev.nachlauf.core.source;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;

class JoinedReaderTest {
    private static List<SourceRow> all(SourceReader reader) {
        List<SourceRow> rows = new ArrayList<>();
        for (SourceRow row = reader.next(); row != null; row = reader.next()) {
            rows.add(row);
        }
        return rows;
    }

    @Test
    void matchesFieldsByNameAndNumbersRowsThrough() {
        Rows first = new Rows("a.csv", "code;beds", List.of("H-1;12", "H-2;8"), "");
        Rows second = new Rows("b.csv", "name;code", List.of("Hut;H-3"), "");
        List<SourceField> union = JoinedReader.union(List.of(first.fields(), second.fields()));
        assertThat(union).extracting(SourceField::name).containsExactly("code", "beds", "name");
        List<SourceRow> rows = all(new JoinedReader(union, List.of(() -> first, () -> second)));
        assertThat(rows).extracting(SourceRow::number).containsExactly(1L, 2L, 3L);
        assertThat(rows.get(0).cells()).containsExactly("H-1", "12", null);
        assertThat(rows.get(2).cells()).containsExactly("H-3", null, "Hut");
        assertThat(rows.get(2).origin().text(union.getFirst())).isEqualTo("b.csv, line 2, code of b.csv");
        assertThat(JoinedReader.lacks(union, Map.of("b.csv", second.fields())))
                .extracting(lack -> lack.part() + lack.fields())
                .containsExactly("b.csv[beds]");
    }

    private static TrailerReader watched(String trailer) {
        Rows rows = new Rows("stays.csv", "no;price", List.of("1;1.200,50", "2;3,25", "3;x", "4;"), trailer);
        List<SourceColumn> columns = List.of(
                SourceColumn.text(rows.fields().get(0)),
                new SourceColumn(rows.fields().get(1), new Reading(Kind.DECIMAL, null, "de"), ""));
        return new TrailerReader(rows, columns, OptionalInt.of(2), Map.of("price", 3));
    }

    @Test
    void aClosingLineThatAgreesIsNoRow() {
        assertThat(all(watched("TOTAL;4;1.203,75"))).hasSize(4);
    }

    @Test
    void aClosingLineThatDiffersOrIsMissingStopsEverything() {
        assertThatThrownBy(() -> all(watched("TOTAL;5;1.203,76"))).isInstanceOfSatisfying(CannotGoOn.class, e -> {
            assertThat(e.problems()).extracting(Problem::code).containsOnly(ProblemCode.FILE_DIFFERS);
            assertThat(e.problems()).hasSize(2);
            assertThat(e.problems().get(1).sentence()).contains("'1.203,76'").contains("1203.75");
        });
        assertThatThrownBy(() -> all(watched(""))).isInstanceOf(CannotGoOn.class);
        assertThatThrownBy(() -> all(watched("TOTAL"))).isInstanceOf(CannotGoOn.class);
    }
}
