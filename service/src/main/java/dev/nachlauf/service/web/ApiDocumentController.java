package dev.nachlauf.service.web;

import java.io.IOException;
import org.springframework.core.io.ClassPathResource;
import org.springframework.core.io.Resource;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** Serves the interface's OpenAPI document as the build has made it. */
@RestController
class ApiDocumentController {
    private final Resource document = new ClassPathResource("openapi.json");

    /** The OpenAPI document of this interface. */
    @GetMapping("/api/v1/openapi")
    ResponseEntity<Resource> document() throws IOException {
        return ResponseEntity.ok()
                .contentType(MediaType.APPLICATION_JSON)
                .contentLength(document.contentLength())
                .body(document);
    }
}
