package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What scripts rely on, with the client as a process; status 3 is in the three loads. */
class ExitStatusTest {
    private static final Installation NACHLAUF = Installation.shared();

    private static Result call(String... words) {
        return callAt(NACHLAUF.address(), words);
    }

    private static Result callAt(String server, String... words) {
        return Programs.run(Programs.client(words), NACHLAUF.clientVariables(server));
    }

    @Test
    void zeroWhenAllIsWell() {
        assertThat(call("connection", "list").status()).isZero();
        assertThat(call("--version").out()).startsWith("nachlauf ");
    }

    @Test
    void oneWhenTheServiceRefuses() {
        Result result = call("job", "show", "hut-lits");
        assertThat(result.status()).isEqualTo(1);
        assertThat(result.err()).contains("There is no job hut-lits.", "Did you mean hut-list?");
        assertThat(result.out()).isEmpty();
    }

    /** Whatever a call carries: of a long one the client gets to know no more than the status. */
    @Test
    void oneWhenTheTokenIsNoGood() {
        String file = NACHLAUF.write("long.csv", "code;name\n" + "H-1;Larch\n".repeat(200_000))
                .toString();
        for (String words : List.of("run list", "run stop 1", "run start hut-list --file " + file)) {
            Result result = Client.call(
                    NACHLAUF.home,
                    "",
                    Map.of("NACHLAUF_SERVER", NACHLAUF.address(), "NACHLAUF_TOKEN", "nobody's"),
                    words.split(" "));
            assertThat(result.status()).as(words).isEqualTo(1);
            assertThat(result.err()).as(words).contains("The call carries no token, or one that was retired.");
        }
    }

    @Test
    void twoWhenTheWordsAreWrong() {
        Result result = call("job", "lsit");
        assertThat(result.status()).isEqualTo(2);
        assertThat(result.err()).contains("Did you mean list?");
        assertThat(call("run", "start").status()).isEqualTo(2);
    }

    @Test
    void fourWhenTheServiceCantBeReached() {
        Result result = callAt("http://127.0.0.1:1", "job", "list");
        assertThat(result.status()).isEqualTo(4);
        assertThat(result.err()).contains("The service at http://127.0.0.1:1 can't be reached.");
    }
}
