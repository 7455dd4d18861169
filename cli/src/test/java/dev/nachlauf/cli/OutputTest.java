package dev.nachlauf.cli;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.cli.Output.Column;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.List;
import org.junit.jupiter.api.Test;

class OutputTest {
    private record Hut(String name, long beds) {}

    private static final List<Column<Hut>> COLUMNS =
            List.of(Column.text("name", Hut::name), Column.number("beds", Hut::beds));

    @Test
    void tablesAlignTextLeftAndNumbersRightByCharacters() {
        assertThat(Output.table(List.of(new Hut("Föhrenstein", 8), new Hut("A 𝄞", 12_345)), COLUMNS))
                .containsExactly("name           beds", "Föhrenstein       8", "A 𝄞          12,345");
    }

    @Test
    void lineBreaksStayInsideTheirCell() {
        assertThat(Output.table(List.of(new Hut("a\nb", 1)), COLUMNS).get(1)).isEqualTo("a b      1");
    }

    @Test
    void listsAreJsonLinesForScriptsAndARemarkWhenEmptyForPeople() {
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        Output json = new Output(Output.Form.JSON, new PrintWriter(out, true), new PrintWriter(err, true));
        json.list(List.of(new Hut("a", 1), new Hut("b", 2)), "nothing", COLUMNS);
        assertThat(out.toString().lines())
                .containsExactly("{\"name\":\"a\",\"beds\":1}", "{\"name\":\"b\",\"beds\":2}");
        json.list(List.of(), "nothing", COLUMNS);
        Output table = new Output(Output.Form.TABLE, new PrintWriter(out, true), new PrintWriter(err, true));
        table.list(List.<Hut>of(), "There are no huts.", COLUMNS);
        assertThat(err.toString().strip()).isEqualTo("There are no huts.");
    }

    @Test
    void timesAreSecondsUntilTheyAreMany() {
        assertThat(Output.seconds(99)).isEqualTo("99 s");
        assertThat(Output.seconds(100)).isEqualTo("2 min");
        assertThat(Output.seconds(121)).isEqualTo("3 min");
    }
}
