package dev.nachlauf.core.function;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.value.ValueProblem;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Lists of plain values as JSON. */
class ListFunctionsTest {
    private static final String LIST = "[\"bath\", 12.50, true, null, \"a \\u00e9\"]";

    private static @Nullable Object call(String name, String list, @Nullable Object second) {
        return FunctionTable.find(name)
                .getFirst()
                .preparation()
                .prepare(second, null)
                .apply(list, second, null);
    }

    @ParameterizedTest
    @CsvSource({"1, bath", "2, 12.50", "3, true", "4,", "5, a é", "-1, a é", "-5, bath", "0,", "6,", "-6,"})
    void anItemIsFoundByItsPlaceFromEitherEnd(long number, String item) {
        assertThat(call("list_item", LIST, number)).isEqualTo(item);
    }

    @Test
    void listsAreCountedJoinedAndSearched() {
        assertThat(call("list_length", LIST, null)).isEqualTo(5L);
        assertThat(call("list_length", "[]", null)).isEqualTo(0L);
        assertThat(call("list_join", LIST, "; ")).isEqualTo("bath; 12.50; true; a é");
        assertThat(call("list_contains", LIST, "12.50")).isEqualTo(true);
        assertThat(call("list_contains", LIST, "Bath")).isEqualTo(false);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "bath", "{}", "[{}]", "[[1]]", "[1", "[1] x", "[1,]", "\"a\"", "[01]"})
    void anythingElseIsNoList(String text) {
        assertThatThrownBy(() -> call("list_length", text, null))
                .isInstanceOfSatisfying(
                        ValueProblem.class, e -> assertThat(e.sentence()).contains("a JSON list of plain values"));
    }
}
