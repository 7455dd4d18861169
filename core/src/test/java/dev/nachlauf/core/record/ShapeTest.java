package dev.nachlauf.core.record;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.value.Kind;
import java.util.List;
import org.junit.jupiter.api.Test;

class ShapeTest {
    private final Shape shape = new Shape(
            List.of(new Field("Name", Kind.TEXT), new Field("beds", Kind.INTEGER), new Field("Beds", Kind.TEXT)));

    @Test
    void findsExactlyElseIgnoringCaseWhereThatIsUnique() {
        assertThat(shape.find("beds", false)).containsExactly(1);
        assertThat(shape.find("name", false)).containsExactly(0);
        assertThat(shape.find("BEDS", false)).containsExactlyInAnyOrder(1, 2);
        assertThat(shape.find("name", true)).isEmpty();
    }

    @Test
    void aLaterFieldReplacesAnEarlierOneOfTheSameName() {
        Shape grown = shape.with(new Field("Name", Kind.TEXT));
        assertThat(grown.find("Name", true)).containsExactly(3);
        assertThat(grown.find("name", false)).containsExactly(3);
        assertThat(grown.names()).containsExactly("Name", "beds", "Beds");
    }
}
