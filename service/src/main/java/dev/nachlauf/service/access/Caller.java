package dev.nachlauf.service.access;

import dev.nachlauf.service.web.Sight;
import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.security.authentication.AbstractAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.authority.AuthorityUtils;
import org.springframework.security.core.context.SecurityContextHolder;

/** Who calls: the name and the role of a token. */
public final class Caller extends AbstractAuthenticationToken {
    private static final long serialVersionUID = 1L;

    private final String token;
    private final Role role;

    Caller(String token, Role role, boolean seesSensitive) {
        super(AuthorityUtils.createAuthorityList(
                seesSensitive ? List.of(role.name(), Sight.AUTHORITY) : List.of(role.name())));
        this.token = token;
        this.role = role;
        setAuthenticated(true);
    }

    /** The caller's name for records; empty for calls that need no token. */
    public static String of(HttpServletRequest request) {
        String name = request.getRemoteUser();
        return name == null ? "" : name;
    }

    /** The caller of the request that this thread answers; empty where nobody signed in. */
    static Optional<Caller> current() {
        Authentication known = SecurityContextHolder.getContext().getAuthentication();
        return known instanceof Caller caller ? Optional.of(caller) : Optional.empty();
    }

    /** Whether the caller of the request that this thread answers may do what a role may. */
    public static boolean may(Role needed) {
        return current().filter(caller -> caller.role.includes(needed)).isPresent();
    }

    Role role() {
        return role;
    }

    /** Whether sensitive values are shown. */
    boolean seesSensitive() {
        return getAuthorities().stream().anyMatch(granted -> Sight.AUTHORITY.equals(granted.getAuthority()));
    }

    @Override
    public String getName() {
        return token;
    }

    @Override
    public Object getCredentials() {
        return "";
    }

    @Override
    public Object getPrincipal() {
        return token;
    }

    @Override
    public boolean equals(@Nullable Object other) {
        return other instanceof Caller caller
                && token.equals(caller.token)
                && role == caller.role
                && seesSensitive() == caller.seesSensitive();
    }

    @Override
    public int hashCode() {
        return token.hashCode();
    }
}
