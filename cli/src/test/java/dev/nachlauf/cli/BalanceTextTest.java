package dev.nachlauf.cli;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.api.BalanceView;
import dev.nachlauf.api.StepCountView;
import java.util.List;
import org.junit.jupiter.api.Test;

class BalanceTextTest {
    private static BalanceView balance(
            long inserted, long updated, long unchanged, long skipped, long rejected, long unreached) {
        long passed = inserted + updated + unchanged;
        return new BalanceView(
                passed + skipped + rejected + unreached,
                skipped,
                rejected,
                passed,
                unreached,
                0,
                passed,
                inserted,
                updated,
                unchanged,
                0,
                0,
                0,
                0,
                0,
                true,
                List.of(),
                List.of());
    }

    @Test
    void theBarIsAlwaysOfOneWidthAndInOneOrder() {
        String bar = BalanceText.bar(balance(25, 25, 25, 15, 10, 0));
        assertThat(bar).hasSize(BalanceText.WIDTH).matches("\\++~+=+\\.+x+");
    }

    @Test
    void whatOccursHasAtLeastOneSign() {
        String bar = BalanceText.bar(balance(1, 1, 1_000_000, 1, 1, 0));
        assertThat(bar).hasSize(BalanceText.WIDTH).startsWith("+~=").endsWith("=.x");
    }

    @Test
    void whatIsUnreachedStaysEmpty() {
        String bar = BalanceText.bar(balance(50, 0, 0, 0, 0, 50));
        assertThat(bar).hasSize(BalanceText.WIDTH).matches("\\+{24} {24}");
        assertThat(BalanceText.bar(balance(0, 0, 0, 0, 0, 0))).isBlank().hasSize(BalanceText.WIDTH);
    }

    @Test
    void stepsThatDoSomethingHaveALine() {
        assertThat(BalanceText.step(new StepCountView("combine", 12, 0, 4, 1, 2, 5)))
                .isEqualTo("  combine 12 in = 4 out + 1 skipped + 2 rejected + 5 merged");
        assertThat(BalanceText.step(new StepCountView("wide-to-long", 3, 15, 18, 0, 0, 0)))
                .isEqualTo("  wide-to-long 3 in + 15 made = 18 out");
    }
}
