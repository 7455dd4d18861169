package dev.nachlauf.service.web;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import org.junit.jupiter.api.Test;

class CursorsTest {
    @Test
    void aCursorIsNumbersJoinedByHyphens() {
        assertThat(Cursors.parts("3-17", 2)).containsExactly(3, 17);
        assertThat(Cursors.one(null, 9)).isEqualTo(9);
        assertThat(Cursors.one("4", 9)).isEqualTo(4);
    }

    @Test
    void anythingElseIsRefused() {
        assertThatThrownBy(() -> Cursors.parts("3", 2)).isInstanceOf(CannotGoOn.class);
        assertThatThrownBy(() -> Cursors.one("x", 0)).isInstanceOf(CannotGoOn.class);
        assertThatThrownBy(() -> Cursors.parts("1-2-3", 2)).isInstanceOf(CannotGoOn.class);
    }

    @Test
    void aPageHasBounds() {
        assertThat(Cursors.limit(0)).isEqualTo(1);
        assertThat(Cursors.limit(1_000_000)).isEqualTo(Cursors.MOST);
        assertThat(Cursors.limit(50)).isEqualTo(50);
    }
}
