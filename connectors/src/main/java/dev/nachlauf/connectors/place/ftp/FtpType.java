package dev.nachlauf.connectors.place.ftp;

import dev.nachlauf.connectors.place.FilePattern;
import dev.nachlauf.core.system.Reach;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.SystemType;
import java.util.List;

/** A folder on an FTP host. */
public final class FtpType implements SystemType {
    static final String HOST = "host";
    static final String PORT = "port";
    static final String USER = "user";
    static final String PASSWORD = "password";
    static final String PATH = "path";
    static final String TLS = "tls";
    static final String CERTIFICATE = "certificate";
    static final int USUAL_PORT = 21;

    @Override
    public String type() {
        return "ftp";
    }

    @Override
    public String help() {
        return "A folder on an FTP host, plain or over TLS.";
    }

    @Override
    public List<Setting> settings() {
        return List.of(
                Setting.required(HOST, "the host's name or address"),
                Setting.optional(PORT, "21 unless stated"),
                Setting.required(USER, "the account"),
                Setting.secret(PASSWORD, "the account's password"),
                Setting.optional(PATH, "the folder; the account's own unless stated"),
                Setting.optional(TLS, "explicit (the default), implicit, or off for plain FTP"),
                Setting.optional(
                        CERTIFICATE,
                        "the SHA-256 of the host's certificate in hex, where no known authority has signed it"),
                FilePattern.QUIET);
    }

    @Override
    public Reach reach(Settings settings) {
        return new Reach.Host(settings.required(HOST));
    }

    @Override
    public Class<FtpPlace> opens() {
        return FtpPlace.class;
    }

    @Override
    public FtpPlace open(Settings settings) {
        return new FtpPlace(settings);
    }
}
