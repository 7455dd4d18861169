package dev.nachlauf.connectors.place.sftp;

import dev.nachlauf.connectors.place.FilePattern;
import dev.nachlauf.core.system.Reach;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.SystemType;
import java.util.List;

/** A folder on an SFTP host. */
public final class SftpType implements SystemType {
    static final String HOST = "host";
    static final String PORT = "port";
    static final String USER = "user";
    static final String PASSWORD = "password";
    static final String PRIVATE_KEY = "private-key";
    static final String HOST_KEY = "host-key";
    static final String PATH = "path";
    static final int USUAL_PORT = 22;

    @Override
    public String type() {
        return "sftp";
    }

    @Override
    public String help() {
        return "A folder on an SFTP host.";
    }

    @Override
    public List<Setting> settings() {
        return List.of(
                Setting.required(HOST, "the host's name or address"),
                Setting.optional(PORT, "22 unless stated"),
                Setting.required(USER, "the account"),
                Setting.secret(PASSWORD, "the account's password"),
                Setting.secret(PRIVATE_KEY, "the account's private key in PEM or OpenSSH form"),
                Setting.required(HOST_KEY, "the fingerprint of the host's key, such as SHA256:…"),
                Setting.optional(PATH, "the folder; the account's own unless stated"),
                FilePattern.QUIET);
    }

    @Override
    public Reach reach(Settings settings) {
        return new Reach.Host(settings.required(HOST));
    }

    @Override
    public Class<SftpPlace> opens() {
        return SftpPlace.class;
    }

    @Override
    public SftpPlace open(Settings settings) {
        return new SftpPlace(settings);
    }
}
