package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.acceptance.Installation.Result;
import org.junit.jupiter.api.Test;

/** What scripts rely on; status 3 is in the three loads. */
class ExitStatusTest {
    private static final Installation NACHLAUF = Installation.shared();

    @Test
    void zeroWhenAllIsWell() {
        assertThat(NACHLAUF.client("connection", "list").status()).isZero();
        assertThat(NACHLAUF.client("--version").out()).startsWith("nachlauf ");
    }

    @Test
    void oneWhenTheServiceRefuses() {
        Result result = NACHLAUF.client("job", "show", "hut-lits");
        assertThat(result.status()).isEqualTo(1);
        assertThat(result.err()).contains("There is no job hut-lits.", "Did you mean hut-list?");
    }

    @Test
    void twoWhenTheWordsAreWrong() {
        Result result = NACHLAUF.client("job", "lsit");
        assertThat(result.status()).isEqualTo(2);
        assertThat(result.err()).contains("Did you mean list?");
        assertThat(NACHLAUF.client("run", "start").status()).isEqualTo(2);
        assertThat(NACHLAUF.client("run").status()).isEqualTo(2);
        assertThat(NACHLAUF.client("run", "show", "seven").status()).isEqualTo(2);
    }

    @Test
    void fourWhenTheServiceCantBeReached() {
        Result result = NACHLAUF.clientAt("http://127.0.0.1:1", "job", "list");
        assertThat(result.status()).isEqualTo(4);
        assertThat(result.err()).contains("The service at http://127.0.0.1:1 can't be reached.");
    }
}
