package dev.nachlauf.core.job;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.crosswalk.CrosswalkFile;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.text.SourceText;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BiFunction;
import org.junit.jupiter.api.Test;

/** A document that is given for one of another kind. */
class DocumentKindTest {
    private static final String CROSSWALK =
            "nachlauf: 1\ncrosswalk: region\nentries:\n  - { from: Seekamm, to: SEE }\n";
    private static final String CONNECTION =
            "nachlauf: 1\nconnection: inbox\ntype: folder\nsettings: { path: /srv/lists }\n";
    private static final String PIECES = "nachlauf: 1\npieces: huts\nformulas: {}\n";

    private static List<String> said(BiFunction<SourceText, List<Problem>, Optional<?>> reader, String text) {
        List<Problem> problems = new ArrayList<>();
        assertThat(reader.apply(new SourceText("x.yaml", text), problems)).isEmpty();
        return problems.stream()
                .map(problem -> problem.sentence() + " " + problem.remedy())
                .toList();
    }

    @Test
    void isToldWhatItIsAndNothingElse() {
        assertThat(said(JobFile::read, CROSSWALK))
                .containsExactly("This is a crosswalk, not a job. Save it with: nachlauf crosswalk save FILE");
        assertThat(said(JobFile::read, PIECES))
                .containsExactly("This is a document of pieces, not a job. Save it with: nachlauf pieces save FILE");
        assertThat(said(CrosswalkFile::read, CONNECTION))
                .containsExactly("This is a connection, not a crosswalk. Save it with: nachlauf connection save FILE");
        assertThat(said(ConnectionFile::read, CROSSWALK)).hasSize(1);
        assertThat(said(PiecesFile::read, CROSSWALK)).hasSize(1);
    }

    @Test
    void aJobThatUsesPiecesAndLacksItsNameIsStillAJob() {
        assertThat(said(JobFile::read, "nachlauf: 1\npieces: [huts]\nread: { connection: a, file: b.csv }\n"))
                .noneMatch(sentence -> sentence.startsWith("This is"));
    }
}
