package dev.nachlauf.service;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.Objects;
import java.util.Optional;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;

/** The service's entry. */
@SpringBootApplication
@ConfigurationPropertiesScan
public class NachlaufService {

    /** Starts the service, after a look whether its database is there: a stack trace would not tell what to do. */
    public static void main(String[] arguments) {
        Optional<String> missing = databaseProblem();
        if (missing.isPresent()) {
            System.err.println(missing.get());
            System.exit(1);
        }
        SpringApplication.run(NachlaufService.class, arguments);
    }

    private static Optional<String> databaseProblem() {
        String url = Objects.requireNonNullElse(
                System.getenv("NACHLAUF_DB_URL"), "jdbc:postgresql://127.0.0.1:5432/nachlauf");
        String user = Objects.requireNonNullElse(System.getenv("NACHLAUF_DB_USER"), "nachlauf");
        String password = Objects.requireNonNullElse(System.getenv("NACHLAUF_DB_PASSWORD"), "");
        try (Connection connection = DriverManager.getConnection(url, user, password)) {
            return Optional.empty();
        } catch (SQLException e) {
            String shown = url.replaceAll("\\?.*", "");
            return Optional.of("The service's own database " + shown + " can't be used as " + user + " (SQLSTATE "
                    + e.getSQLState()
                    + "). Start it, or correct NACHLAUF_DB_URL, NACHLAUF_DB_USER and NACHLAUF_DB_PASSWORD.");
        }
    }
}
