package dev.nachlauf.connectors.message.webhook;

import dev.nachlauf.core.system.Reach;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.SystemType;
import java.util.List;

/** A program that is told by a signed call. */
public final class WebhookType implements SystemType {
    static final String ADDRESS = "address";
    static final String SECRET = "secret";
    static final String PATIENCE = "patience";

    @Override
    public String type() {
        return "webhook";
    }

    @Override
    public String help() {
        return "A program that is told by a signed call to its web address.";
    }

    @Override
    public List<Setting> settings() {
        return List.of(
                Setting.required(ADDRESS, "the address that is called, such as https://host/runs"),
                new Setting(SECRET, true, true, "what both sides know, with which calls are signed"),
                Setting.optional(PATIENCE, "how many seconds it may take to answer; 30 unless stated"));
    }

    @Override
    public Reach reach(Settings settings) {
        return new Reach.Host(Webhook.address(settings).getHost());
    }

    @Override
    public Class<Webhook> opens() {
        return Webhook.class;
    }

    @Override
    public Webhook open(Settings settings) {
        return new Webhook(settings);
    }
}
