package dev.nachlauf.service.access;

import dev.nachlauf.service.NachlaufSettings;
import dev.nachlauf.service.store.NameLock;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Clock;
import java.util.EnumSet;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.SmartInitializingSingleton;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * The token of those who can read the state folder: made at the first start, and made anew where its file is gone. Who has
 * the folder has the service anyway, so this gives nobody more than they had.
 */
@Component
class FirstToken implements SmartInitializingSingleton {
    /** The token's name. */
    static final String NAME = "local";

    private static final Logger LOG = LoggerFactory.getLogger(FirstToken.class);

    private final TokenRepository tokens;
    private final TransactionTemplate transactions;
    private final NameLock lock;
    private final Clock clock;
    private final Path file;

    FirstToken(
            TokenRepository tokens,
            TransactionTemplate transactions,
            NameLock lock,
            Clock clock,
            NachlaufSettings settings) {
        this.tokens = tokens;
        this.transactions = transactions;
        this.lock = lock;
        this.clock = clock;
        this.file = settings.home().toAbsolutePath().resolve("token");
    }

    /** When it is known that folder and database belong together, and before anybody is answered. */
    @Override
    public void afterSingletonsInstantiated() {
        transactions.executeWithoutResult(status -> {
            // two services of one folder may start at once
            lock.hold("token", NAME);
            Optional<TokenEntity> known = tokens.findById(NAME);
            boolean retired = known.isPresent() && known.get().retiredAt != null;
            boolean good = known.isPresent() && known.get().hash.equals(hashOfFile());
            if (!retired && !good) {
                String secret = Secret.make(Tokens.PREFIX);
                String hash = Secret.hash(secret);
                if (known.isEmpty()) {
                    tokens.make(NAME, Role.ADMINISTER.name(), false, hash, clock.instant(), "the first start");
                } else {
                    tokens.renew(NAME, hash);
                }
                write(secret);
                LOG.info("the token {}, which may administer, is in {}", NAME, file);
            }
        });
    }

    private String hashOfFile() {
        try {
            return Files.exists(file) ? Secret.hash(Files.readString(file).strip()) : "";
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private void write(String secret) {
        try {
            var ours = PosixFilePermissions.asFileAttribute(
                    EnumSet.of(PosixFilePermission.OWNER_READ, PosixFilePermission.OWNER_WRITE));
            Path draft = Files.createTempFile(file.getParent(), "token", ".part", ours);
            Files.writeString(draft, secret + "\n");
            Files.move(draft, file, StandardCopyOption.ATOMIC_MOVE);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
