package dev.nachlauf.service.source;

import dev.nachlauf.api.SourceRequest;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Service;

/** Lets other features read a source that somebody names. */
@Service
public class SourceRows {
    private final RequestedSource requested;

    private final ScratchSpace scratchSpace;

    SourceRows(RequestedSource requested, ScratchSpace scratchSpace) {
        this.scratchSpace = scratchSpace;
        this.requested = requested;
    }

    /** What is done with the rows. */
    @FunctionalInterface
    public interface Use {
        /**
         * Takes a reader at its first row.
         *
         * @param sensitive columns whose values are not shown
         */
        void of(List<SourceField> fields, Set<String> sensitive, SourceReader reader);
    }

    /** Opens the source, and closes it when it has been used. */
    public void read(SourceRequest request, Use use) {
        try (ScratchFolder scratch = scratchSpace.create()) {
            RequestedSource.Found found = requested.find(request, scratch.path());
            try (SourceReader reader = found.open().get()) {
                use.of(reader.fields(), found.sensitive(), reader);
            }
        }
    }
}
