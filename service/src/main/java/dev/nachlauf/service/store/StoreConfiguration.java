package dev.nachlauf.service.store;

import java.time.Clock;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** What all features take from outside. */
@Configuration
class StoreConfiguration {
    @Bean
    Clock clock() {
        return Clock.systemUTC();
    }
}
