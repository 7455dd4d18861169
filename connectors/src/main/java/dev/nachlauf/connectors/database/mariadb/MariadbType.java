package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.HostName;
import dev.nachlauf.connectors.database.Tls;
import dev.nachlauf.core.system.Reach;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.SystemType;
import java.util.List;
import java.util.stream.Stream;

/** A MariaDB database. */
public final class MariadbType implements SystemType {
    @Override
    public String type() {
        return "mariadb";
    }

    @Override
    public String help() {
        return "Tables of a MariaDB database.";
    }

    @Override
    public List<Setting> settings() {
        return Stream.concat(
                        Stream.of(
                                Setting.optional("host", "name or address; 127.0.0.1 unless given"),
                                Setting.optional("port", "3306 unless given"),
                                Setting.required("database", "the database"),
                                Setting.required("user", "the account"),
                                Setting.secret("password", "the account's password, by reference")),
                        Tls.SETTINGS.stream())
                .toList();
    }

    @Override
    public Reach reach(Settings settings) {
        return new Reach.Host(HostName.of(settings));
    }

    @Override
    public Class<MariadbSystem> opens() {
        return MariadbSystem.class;
    }

    @Override
    public MariadbSystem open(Settings settings) {
        return new MariadbSystem(settings);
    }
}
