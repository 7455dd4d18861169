package dev.nachlauf.connectors.place.http;

import dev.nachlauf.core.system.Reach;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.SystemType;
import java.util.List;

/** Files on a web server. */
public final class HttpType implements SystemType {
    static final String ADDRESS = "address";
    static final String USER = "user";
    static final String PASSWORD = "password";
    static final String TOKEN = "token";

    @Override
    public String type() {
        return "http";
    }

    @Override
    public String help() {
        return "Files on a web server, named exactly.";
    }

    @Override
    public List<Setting> settings() {
        return List.of(
                Setting.required(ADDRESS, "the address below which the files lie, such as https://host/folder/"),
                Setting.optional(USER, "the account for basic authentication"),
                Setting.secret(PASSWORD, "the account's password"),
                Setting.secret(TOKEN, "a bearer token"));
    }

    @Override
    public Reach reach(Settings settings) {
        return new Reach.Host(HttpPlace.address(settings).getHost());
    }

    @Override
    public Class<HttpPlace> opens() {
        return HttpPlace.class;
    }

    @Override
    public HttpPlace open(Settings settings) {
        return new HttpPlace(settings);
    }
}
