package dev.nachlauf.service;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.Objects;
import java.util.Optional;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import org.springframework.boot.security.autoconfigure.UserDetailsServiceAutoConfiguration;
import org.springframework.context.aot.AbstractAotProcessor;

/** The service's entry. */
// callers have tokens, not passwords
@SpringBootApplication(exclude = UserDetailsServiceAutoConfiguration.class)
@ConfigurationPropertiesScan
public class NachlaufService {

    /** Starts the service, after a look whether its database is there: a stack trace would not tell what to do. */
    public static void main(String[] arguments) {
        // the build only looks at what there is to start
        if (!Boolean.getBoolean(AbstractAotProcessor.AOT_PROCESSING)) {
            requireWhatItNeeds();
        }
        SpringApplication application = new SpringApplication(NachlaufService.class);
        application.setDefaultProperties(Exposure.tls(System.getenv()));
        application.run(arguments);
    }

    private static void requireWhatItNeeds() {
        Optional<String> problem = Exposure.problem(System.getenv()).or(NachlaufService::databaseProblem);
        if (problem.isPresent()) {
            System.err.println(problem.get());
            System.exit(1);
        }
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
