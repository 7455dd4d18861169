package dev.nachlauf.service.look;

import dev.nachlauf.api.LookView;

/** A look takes longer than its caller wanted to wait; the answer names it. */
final class LookUnderWay extends RuntimeException {
    private static final long serialVersionUID = 1L;
    private final transient LookView look;

    LookUnderWay(LookView look) {
        super("a look is under way", null, false, false);
        this.look = look;
    }

    LookView look() {
        return look;
    }
}
