package dev.nachlauf.service.store;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.StepCount;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What is kept as JSON stays readable: its names are those of earlier versions, whatever becomes of the types. */
class StoredJsonTest {
    private static final String COUNTS = "{\"read\":10,\"skipped\":1,\"rejected\":2,\"inserted\":3,\"updated\":4,"
            + "\"unchanged\":5,\"deleted\":6,\"issued\":7,\"refused\":8,\"warned\":9}";

    @Test
    void aTallyKeepsItsNames() {
        Tally tally = new Tally(
                List.of(new StepCount(4, 3, 1, 0)),
                List.of(new Counts(10, 1, 2, 3, 4, 5, 6, 7, 8, 9)),
                List.of(),
                11,
                12,
                13);
        String text = "{\"steps\":[{\"in\":4,\"out\":3,\"skipped\":1,\"rejected\":0}],\"writes\":[" + COUNTS
                + "],\"elsewhere\":11,\"sources\":12,\"refused\":13}";
        assertThat(Json.writeTally(tally)).isEqualTo(text);
        assertThat(Json.readTally(text)).isEqualTo(tally);
        Tally gone = new Tally(List.of(), List.of(), List.of(new Counts(10, 1, 2, 3, 4, 5, 6, 7, 8, 9)), 0, 0, 0);
        String goneText = "{\"steps\":[],\"writes\":[],\"elsewhere\":0,\"sources\":0,\"refused\":0,\"removals\":["
                + COUNTS + "]}";
        assertThat(Json.writeTally(gone)).isEqualTo(goneText);
        assertThat(Json.readTally(goneText)).isEqualTo(gone);
        assertThat(Json.readTally("{\"steps\":[],\"elsewhere\":1}"))
                .as("of an earlier version")
                .isEqualTo(new Tally(List.of(), List.of(), List.of(), 1, 0, 0));
    }

    @Test
    void columnsKeepTheirNames() {
        SourceColumn column =
                new SourceColumn(new SourceField("opens", "C"), new Reading(Kind.DATE, "dd.MM.yyyy", null), "day?");
        String text = "[{\"field\":{\"name\":\"opens\",\"address\":\"C\"},\"reading\":{\"kind\":\"DATE\","
                + "\"pattern\":\"dd.MM.yyyy\",\"locale\":null},\"question\":\"day?\"}]";
        assertThat(Json.writeColumns(List.of(column))).isEqualTo(text);
        assertThat(new Json.Columns().convertToEntityAttribute(text)).containsExactly(column);
    }

    @Test
    void problemsKeepTheirNames() {
        ProblemView view = new ProblemView(
                "not-found", false, "None.", "Add it.", null, 3, "beds", "x", "B4", null, "None. [not-found]");
        String text = "[{\"code\":\"not-found\",\"warning\":false,\"sentence\":\"None.\",\"remedy\":\"Add it.\","
                + "\"line\":null,\"column\":3,\"field\":\"beds\",\"value\":\"x\",\"at\":\"B4\",\"subject\":null,"
                + "\"rendered\":\"None. [not-found]\"}]";
        assertThat(Json.writeProblems(List.of(view))).isEqualTo(text);
        assertThat(new Json.Problems().convertToEntityAttribute(text)).containsExactly(view);
    }
}
