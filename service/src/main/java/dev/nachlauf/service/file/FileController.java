package dev.nachlauf.service.file;

import dev.nachlauf.api.FileView;
import dev.nachlauf.service.access.Needs;
import dev.nachlauf.service.access.Role;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/files")
class FileController {
    private final FileStore files;

    FileController(FileStore files) {
        this.files = files;
    }

    /** Keeps a file for runs and looks. The body is the file itself and is streamed to the store. */
    @PostMapping(consumes = "application/octet-stream")
    @Needs(Role.RUN)
    FileView upload(@RequestParam(defaultValue = "upload") String name, HttpServletRequest request) throws IOException {
        files.requireRoom(request.getContentLengthLong());
        return files.keep(name, request.getInputStream());
    }
}
