package dev.nachlauf.acceptance;

import java.time.Duration;
import org.awaitility.Awaitility;
import org.awaitility.core.ConditionFactory;

/** How long tests wait for what other processes do: longer than a busy machine takes, for only a failure waits that long. */
public final class Patience {
    private Patience() {}

    public static ConditionFactory patiently() {
        return Awaitility.await().atMost(Duration.ofMinutes(5));
    }
}
