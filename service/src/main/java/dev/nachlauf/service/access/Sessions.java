package dev.nachlauf.service.access;

import dev.nachlauf.api.SessionLink;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Sessions of browsers: opened by a token or by a link that is good once, and over after a working day. */
@Service
@Transactional
class Sessions {
    static final Duration SESSION = Duration.ofHours(12);
    private static final Duration LINK = Duration.ofMinutes(10);

    private final TokenRepository tokens;
    private final PassRepository passes;
    private final Clock clock;

    Sessions(TokenRepository tokens, PassRepository passes, Clock clock) {
        this.tokens = tokens;
        this.passes = passes;
        this.clock = clock;
    }

    /** A session, by the secret that the browser keeps. */
    record Opened(String secret, Caller caller) {}

    /** A link that opens one session for the token. */
    SessionLink link(String token) {
        Instant expires = clock.instant().plus(LINK);
        return new SessionLink("/enter#" + keep(token, PassEntity.Kind.LINK, expires), expires);
    }

    Opened openByToken(String secret) {
        TokenEntity token = tokens.findByHashAndRetiredAtIsNull(Secret.hash(secret))
                .orElseThrow(() -> refused("No token has this secret, or it was retired.", "Paste another one."));
        return open(token);
    }

    /** Opens a session by a link; it is good for the first who comes. */
    Opened openByLink(String code) {
        String hash = Secret.hash(code);
        Instant now = clock.instant();
        TokenEntity token = tokens.findByPass(hash, PassEntity.Kind.LINK, now).orElseThrow(Sessions::linkIsUsed);
        if (passes.take(hash, PassEntity.Kind.LINK, now) == 0) {
            throw linkIsUsed();
        }
        return open(token);
    }

    void close(String secret) {
        passes.take(Secret.hash(secret), PassEntity.Kind.SESSION, clock.instant());
    }

    private Opened open(TokenEntity token) {
        passes.removeExpired(clock.instant());
        String secret =
                keep(token.name, PassEntity.Kind.SESSION, clock.instant().plus(SESSION));
        return new Opened(secret, new Caller(token.name, token.role, token.seesSensitive));
    }

    private String keep(String token, PassEntity.Kind kind, Instant expires) {
        String secret = Secret.make("");
        PassEntity pass = new PassEntity();
        pass.hash = Secret.hash(secret);
        pass.kind = kind;
        pass.token = token;
        pass.expiresAt = expires;
        passes.save(pass);
        return secret;
    }

    private static CannotGoOn linkIsUsed() {
        return refused(
                "The link was used before, or is older than " + LINK.toMinutes() + " minutes.",
                "Make another one: nachlauf token link");
    }

    private static CannotGoOn refused(String sentence, String remedy) {
        return new CannotGoOn(Problem.of(ProblemCode.NOT_SIGNED_IN, sentence, remedy));
    }
}
