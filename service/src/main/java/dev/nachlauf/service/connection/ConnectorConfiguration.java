package dev.nachlauf.service.connection;

import dev.nachlauf.core.system.Connectors;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Finds the connectors, once. */
@Configuration
class ConnectorConfiguration {
    @Bean
    Connectors connectors() {
        return Connectors.load();
    }
}
