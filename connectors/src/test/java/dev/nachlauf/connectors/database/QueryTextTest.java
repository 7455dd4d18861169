package dev.nachlauf.connectors.database;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class QueryTextTest {
    @Test
    void bindsParametersOutsideOfQuotesAndComments() {
        QueryText query = QueryText.parse(
                "select ':no', \":no\", x::text, $$:no ; $$ -- :no\n, /* ; :no */ y from t where a = :season and b > :from_day;");
        assertThat(query.names()).containsExactly("season", "from_day");
        assertThat(query.sql()).endsWith("where a = ? and b > ?").contains("x::text", "':no'", "$$:no ; $$");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "select 1; drop table t",
                "select 1;; select 2",
                "select 'never ends",
                "select /* never ends",
                "select $a$ never ends",
                "select ? from t",
                "copy t to program 'sh'",
                "do $$ begin end $$",
                "-- select\ncall wander()",
                "/* select */ vacuum",
                "(explain analyze select 1)",
                "selection",
                ""
            })
    void refusesWhatCouldLeaveTheTransactionOrBindWrongly(String text) {
        assertThatThrownBy(() -> QueryText.parse(text))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.QUERY_REFUSED));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "select 1",
                "  WITH a AS (SELECT 1) SELECT * FROM a",
                "((select 1) union (select 2))",
                "-- all huts\n/* of\nall valleys */ table hut",
                "values (1), (2)"
            })
    void takesWhatOnlyAsks(String text) {
        assertThat(QueryText.parse(text).sql()).isEqualTo(text);
    }
}
