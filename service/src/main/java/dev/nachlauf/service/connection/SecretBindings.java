package dev.nachlauf.service.connection;

import dev.nachlauf.api.SecretBindingView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.time.Clock;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Sees to it that a secret goes to one host only, the first it was used with: whoever may save connections, but does not know
 * a secret, can't have it sent to a host of their own.
 */
@Service
public class SecretBindings {
    private final SecretBindingRepository repository;
    private final TransactionTemplate apart;
    private final Clock clock;

    SecretBindings(SecretBindingRepository repository, PlatformTransactionManager transactions, Clock clock) {
        this.repository = repository;
        this.apart = new TransactionTemplate(transactions);
        // whoever opens a connection may be reading only, and what was sent stays sent
        this.apart.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
        this.clock = clock;
    }

    /**
     * Lets a connection use a secret at a host, or says why not.
     *
     * @param reference as connections write it
     * @throws CannotGoOn with {@code secret-bound}
     */
    void require(String reference, String host, String connection) {
        String wanted = host.toLowerCase(Locale.ROOT);
        SecretBindingEntity bound = repository
                .findById(reference)
                .orElseGet(() -> apart.execute(status -> {
                    repository.bind(reference, wanted, connection, clock.instant());
                    return repository.findById(reference).orElseThrow();
                }));
        if (!bound.host.equals(wanted)) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.SECRET_BOUND,
                    "The secret " + reference + " belongs to " + bound.host + ", where the connection "
                            + bound.connection + " used it first; " + connection + " would send it to " + wanted + ".",
                    "Use another secret, or unbind this one: secret unbind " + reference + "."));
        }
    }

    /** All secrets that were used, by reference. */
    @Transactional(readOnly = true)
    public List<SecretBindingView> list() {
        return repository.findAllByOrderByReference().stream()
                .map(SecretBindings::view)
                .toList();
    }

    /** Forgets the host of a secret, which is told: the next use binds it anew. */
    @Transactional
    public SecretBindingView unbind(String reference) {
        SecretBindingView bound = repository
                .findById(reference)
                .map(SecretBindings::view)
                .orElseThrow(() -> new CannotGoOn(Problem.of(
                        ProblemCode.NOT_FOUND,
                        "The secret " + reference + " is bound to no host.",
                        "secret list shows the secrets that were used.")));
        repository.deleteById(reference);
        return bound;
    }

    private static SecretBindingView view(SecretBindingEntity bound) {
        return new SecretBindingView(bound.reference, bound.host, bound.connection, bound.boundAt);
    }
}
