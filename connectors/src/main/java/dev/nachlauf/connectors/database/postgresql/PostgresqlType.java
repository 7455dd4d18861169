package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.HostName;
import dev.nachlauf.connectors.database.Tls;
import dev.nachlauf.core.system.Reach;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.SystemType;
import java.util.List;
import java.util.stream.Stream;

/** A PostgreSQL database. */
public final class PostgresqlType implements SystemType {
    @Override
    public String type() {
        return "postgresql";
    }

    @Override
    public String help() {
        return "Tables of a PostgreSQL database, one schema of it.";
    }

    @Override
    public List<Setting> settings() {
        return Stream.concat(
                        Stream.of(
                                Setting.optional("host", "name or address; 127.0.0.1 unless given"),
                                Setting.optional("port", "5432 unless given"),
                                Setting.required("database", "the database"),
                                Setting.required("user", "the account"),
                                Setting.secret("password", "the account's password, by reference"),
                                Setting.optional("schema", "public unless given")),
                        Tls.SETTINGS.stream())
                .toList();
    }

    @Override
    public Reach reach(Settings settings) {
        return new Reach.Host(HostName.of(settings));
    }

    @Override
    public Class<PostgresqlSystem> opens() {
        return PostgresqlSystem.class;
    }

    @Override
    public PostgresqlSystem open(Settings settings) {
        return new PostgresqlSystem(settings);
    }
}
