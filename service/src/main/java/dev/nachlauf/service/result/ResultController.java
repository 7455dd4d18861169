package dev.nachlauf.service.result;

import dev.nachlauf.service.access.Caller;
import dev.nachlauf.service.access.Role;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.result.ResultFiles.Wanted;
import dev.nachlauf.service.result.ResultFiles.Written;
import dev.nachlauf.service.web.SentFile;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/runs/{id}/results")
class ResultController {
    private final ResultFiles results;
    private final ScratchSpace scratchSpace;

    ResultController(ResultFiles results, ScratchSpace scratchSpace) {
        this.results = results;
        this.scratchSpace = scratchSpace;
    }

    /**
     * The file that a run has read, with what became of each row beside it; a workbook with its rows where the source isn't
     * a file that can be given back, or where {@code name} ends in {@code .xlsx}. {@code columns} says what stands beside:
     * {@code outcome}, {@code message}, {@code key}, {@code id} and {@code run}, each perhaps with a head of its own, as in
     * {@code outcome=Status,message}.
     */
    @GetMapping(produces = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    void file(
            @PathVariable long id,
            @RequestParam(required = false) @Nullable String name,
            @RequestParam(required = false) @Nullable String file,
            @RequestParam(required = false) @Nullable String columns,
            HttpServletResponse response)
            throws IOException {
        // who may start runs has such files at hand
        Wanted wanted = new Wanted(id, name, file, columns, Caller.may(Role.RUN));
        try (ScratchFolder scratch = scratchSpace.create()) {
            Written written = results.write(wanted, scratch.path());
            SentFile.send(response, written.path(), written.name(), MediaType.APPLICATION_OCTET_STREAM_VALUE);
        }
    }
}
