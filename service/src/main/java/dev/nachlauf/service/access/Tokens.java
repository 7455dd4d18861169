package dev.nachlauf.service.access;

import dev.nachlauf.api.MadeToken;
import dev.nachlauf.api.TokenView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.store.NameLock;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Tokens: made, listed, retired, and known again by their secret. */
@Service
@Transactional
class Tokens {
    static final String PREFIX = "nlt_";
    private static final Duration USE_NOTED_EVERY = Duration.ofMinutes(1);
    private static final Pattern NAME = Pattern.compile("[a-z0-9][a-z0-9-]{0,59}");

    private final TokenRepository repository;
    private final PassRepository passes;
    private final NameLock lock;
    private final Clock clock;

    Tokens(TokenRepository repository, PassRepository passes, NameLock lock, Clock clock) {
        this.repository = repository;
        this.passes = passes;
        this.lock = lock;
        this.clock = clock;
    }

    /** The caller who holds a token with this secret; empty where there is none, or it is retired. */
    Optional<Caller> callerOf(String secret) {
        return repository.findByHashAndRetiredAtIsNull(Secret.hash(secret)).map(this::used);
    }

    /** The caller whose browser holds a session with this secret. */
    Optional<Caller> callerOfSession(String secret) {
        return repository
                .findByPass(Secret.hash(secret), PassEntity.Kind.SESSION, clock.instant())
                .map(this::used);
    }

    private Caller used(TokenEntity token) {
        Instant now = clock.instant();
        Instant before = now.minus(USE_NOTED_EVERY);
        if (token.lastUsedAt == null || token.lastUsedAt.isBefore(before)) {
            repository.used(token.name, now, before);
        }
        return new Caller(token.name, token.role, token.seesSensitive);
    }

    @Transactional(readOnly = true)
    List<TokenView> list() {
        return repository.findAllByOrderByName().stream().map(Tokens::view).toList();
    }

    /**
     * Makes a token. Its secret is shown this once.
     *
     * @param seesSensitive whether sensitive values are shown to its holder
     */
    MadeToken make(String name, String roleWord, boolean seesSensitive, String by) {
        Role role = Role.of(roleWord)
                .orElseThrow(() -> malformed(
                        "There is no role " + roleWord + ".",
                        "Roles: " + Arrays.stream(Role.values()).map(Role::word).collect(Collectors.joining(", "))
                                + "."));
        if (!NAME.matcher(name).matches()) {
            throw malformed(
                    "'" + name + "' can't be the name of a token.", "A name has small letters, digits and hyphens.");
        }
        String secret = Secret.make(PREFIX);
        if (repository.make(name, role.name(), seesSensitive, Secret.hash(secret), clock.instant(), by) == 0) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.NAME_TAKEN,
                    "There is, or was, a token " + name + ".",
                    "Records name tokens, so each name is used once. Choose another."));
        }
        return new MadeToken(view(repository.findById(name).orElseThrow()), secret);
    }

    /** Ends a token and all sessions that stand for it. */
    TokenView retire(String name) {
        // of two who retire the last two at once, one is told so
        lock.hold("tokens", "all");
        TokenEntity token = repository.findById(name).orElseThrow(() -> unknown(name));
        boolean last = token.role == Role.ADMINISTER && repository.countActive(Role.ADMINISTER) == 1;
        if (token.retiredAt == null && last) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.TOKEN_LAST,
                    name + " is the last token that may administer.",
                    "Make another one first: nachlauf token save NAME --role administer"));
        }
        repository.retire(name, clock.instant());
        passes.removeOf(name);
        return view(repository.findById(name).orElseThrow(() -> unknown(name)));
    }

    private static CannotGoOn unknown(String name) {
        return new CannotGoOn(
                Problem.of(ProblemCode.NOT_FOUND, "There is no token " + name + ".", "token list shows all."));
    }

    private static CannotGoOn malformed(String sentence, String remedy) {
        return new CannotGoOn(Problem.of(ProblemCode.REQUEST_MALFORMED, sentence, remedy));
    }

    private static TokenView view(TokenEntity token) {
        return new TokenView(
                token.name,
                token.role.word(),
                token.seesSensitive,
                token.madeAt,
                token.madeBy,
                token.lastUsedAt,
                token.retiredAt);
    }
}
