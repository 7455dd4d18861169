package dev.nachlauf.core.step;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.plan.Plan;
import java.util.ArrayList;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LoadKeysTest {
    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    - combine: [code] / make: { count: sum(count) }                                       | code        | true
                    - combine: [code] / make: { count: sum(count) } / - where: count > 1                  | code        | true
                    - combine: [code] / make: { count: sum(count) } / - set: { count: count + 1 }         | code        | true
                    - where: count > 1                                                                    | code        | false
                    - combine: [code] / make: { count: sum(count) }                                       | upper(code) | false
                    - combine: [code, day] / make: { count: sum(count) }                                  | code        | false
                    - combine: [code] / make: { count: sum(count) } / - set: { code: upper(code) }        | code        | false
                    - combine: [code] / make: { count: sum(count) } / - duplicates: [code] / keep: sum / sum: [count] | code | false
                    """)
    void areDistinctWhereRowsWereCombinedByThemAndNothingWasDoneToThemSince(
            String steps, String key, boolean distinct) {
        String lines = steps.replace(" / -", "\n-").replace(" / ", "\n  ");
        Plan plan = Flows.plan("code;day;count", lines, "a: " + key + ", c: count", new ArrayList<>());
        assertThat(new LoadKeys(plan).isDistinct(0)).isEqualTo(distinct);
    }
}
