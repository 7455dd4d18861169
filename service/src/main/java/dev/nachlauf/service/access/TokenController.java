package dev.nachlauf.service.access;

import dev.nachlauf.api.MadeToken;
import dev.nachlauf.api.MakeToken;
import dev.nachlauf.api.Page;
import dev.nachlauf.api.TokenView;
import jakarta.servlet.http.HttpServletRequest;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/tokens")
class TokenController {
    private final Tokens tokens;

    TokenController(Tokens tokens) {
        this.tokens = tokens;
    }

    /** All tokens, with their last use. */
    @GetMapping
    @Needs(Role.ADMINISTER)
    Page<TokenView> list() {
        return new Page<>(tokens.list(), null);
    }

    /** Makes a token. The answer holds its secret, this once. */
    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    @Needs(value = Role.ADMINISTER, deed = "make token")
    MadeToken make(@RequestBody MakeToken request, HttpServletRequest http) {
        boolean sees = Boolean.TRUE.equals(request.seesSensitive());
        Deed.about(http, request.name() + " " + request.role() + (sees ? ", sees sensitive values" : ""));
        return tokens.make(request.name(), request.role(), sees, Caller.of(http));
    }

    /** Ends a token, and every session that stands for it. */
    @PostMapping("/{name}/retire")
    @Needs(value = Role.ADMINISTER, deed = "retire token")
    TokenView retire(@PathVariable String name) {
        return tokens.retire(name);
    }
}
