package dev.nachlauf.service.notice;

import dev.nachlauf.service.NachlaufSettings;
import org.springframework.core.env.Environment;
import org.springframework.stereotype.Component;

/** Where people find the page of a run. */
@Component
class PageAddress {
    private final NachlaufSettings settings;
    private final Environment environment;

    PageAddress(NachlaufSettings settings, Environment environment) {
        this.settings = settings;
        this.environment = environment;
    }

    /** By the service's first name where it has some, else by that of this machine itself. */
    String of(long run) {
        String scheme = environment.containsProperty("server.ssl.certificate") ? "https" : "http";
        String host = settings.hosts().stream().findFirst().orElse("127.0.0.1");
        return scheme + "://" + host + ":" + environment.getProperty("local.server.port", "") + "/runs/" + run;
    }
}
