package dev.nachlauf.service.file;

import dev.nachlauf.service.NachlaufSettings;
import jakarta.persistence.EntityManager;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Database and home folder of an installation bear the same mark. A service that is started with the database of one and
 * the folder of another would not find what runs read and would fail them, so it refuses to start.
 */
@Component
class InstallationMarker {
    /** The service's folder is not the one that belongs to its database. */
    static final class WrongHome extends RuntimeException {
        private static final long serialVersionUID = 1L;

        WrongHome(Path home) {
            super("The folder " + home + " does not belong to the service's own database: what its runs read is kept"
                    + " elsewhere.");
        }
    }

    InstallationMarker(NachlaufSettings settings, EntityManager entities, PlatformTransactionManager transactions) {
        Path home = settings.home().toAbsolutePath();
        new TransactionTemplate(transactions).executeWithoutResult(status -> {
            // one after the other, also where two services are started for the first time at once
            entities.createNativeQuery("LOCK TABLE installation IN SHARE ROW EXCLUSIVE MODE")
                    .executeUpdate();
            List<?> known =
                    entities.createNativeQuery("SELECT id FROM installation").getResultList();
            String ofHome = mark(home, known.isEmpty());
            if (known.isEmpty()) {
                entities.createNativeQuery("INSERT INTO installation VALUES (:id)")
                        .setParameter("id", ofHome)
                        .executeUpdate();
            } else if (!known.getFirst().equals(ofHome)) {
                throw new WrongHome(home);
            }
        });
    }

    /** The mark of a folder; empty where it has none and gets none. */
    private static String mark(Path home, boolean make) {
        Path file = home.resolve("installation");
        try {
            if (make) {
                Files.createDirectories(home);
                Files.writeString(file, UUID.randomUUID().toString(), StandardOpenOption.CREATE_NEW);
            }
        } catch (FileAlreadyExistsException e) {
            // the folder is older than the database, which takes its mark
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        try {
            return Files.exists(file) ? Files.readString(file).strip() : "";
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
