package dev.nachlauf.service.web;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;

/** Answers with a file. It is complete before the first byte of it is sent, so nobody gets half of one. */
public final class SentFile {
    public static final String XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

    private SentFile() {}

    /** @param name what the browser calls it */
    public static void send(HttpServletResponse response, Path file, String name, String contentType)
            throws IOException {
        response.setContentType(contentType);
        response.setContentLengthLong(Files.size(file));
        response.setHeader(
                HttpHeaders.CONTENT_DISPOSITION,
                ContentDisposition.attachment()
                        .filename(name, StandardCharsets.UTF_8)
                        .build()
                        .toString());
        Files.copy(file, response.getOutputStream());
    }
}
