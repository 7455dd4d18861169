package dev.nachlauf.service.web;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.util.Base64;
import org.springframework.core.io.ClassPathResource;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;

/**
 * The console's one page, to which all its addresses lead. The browser runs and shows what comes from here and nothing
 * else; the editor makes its style sheet while it runs and marks it with a number that is good for this page alone.
 */
@Controller
class ConsolePage {
    private static final String PLACEHOLDER = "nonce-placeholder";
    private static final int NONCE_BYTES = 16;
    private static final SecureRandom RANDOM = new SecureRandom();

    private final String page;

    ConsolePage() throws IOException {
        ClassPathResource file = new ClassPathResource("static/index.html");
        if (file.exists()) {
            try (InputStream in = file.getInputStream()) {
                page = new String(in.readAllBytes(), StandardCharsets.UTF_8);
            }
        } else {
            page = "The console was not built.";
        }
    }

    @GetMapping({
        "/",
        "/index.html",
        "/{place:enter|sources|jobs|runs|rejects|crosswalks|connections|kept}",
        "/{place:sources|jobs|runs|rejects|crosswalks|connections|kept}/{name}",
        "/{place:sources|jobs|runs|rejects|crosswalks|connections|kept}/{name}/{part}",
        "/connections/{name}/{records}/{part:history|found}"
    })
    ResponseEntity<String> show() {
        byte[] bytes = new byte[NONCE_BYTES];
        RANDOM.nextBytes(bytes);
        String nonce = Base64.getEncoder().encodeToString(bytes);
        return ResponseEntity.ok()
                .contentType(new MediaType(MediaType.TEXT_HTML, StandardCharsets.UTF_8))
                .cacheControl(CacheControl.noStore())
                .header("Content-Security-Policy", policy(nonce))
                .body(page.replace(PLACEHOLDER, nonce));
    }

    /** What the page may load and where it may be shown (Content Security Policy, level 3). */
    private static String policy(String nonce) {
        return "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-" + nonce + "'; connect-src 'self';"
                + " img-src 'self' data:; font-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";
    }
}
