package dev.nachlauf.service.web;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.text.Span;
import java.util.Collections;
import org.junit.jupiter.api.Test;

class ProblemViewsTest {
    @Test
    void aPlaceInADocumentIsLineAndColumn() {
        Place place = new Place.InText(new SourceText("job.yaml", "nachlauf: 1\njob: X\n"), new Span(17, 18));
        ProblemView view = ProblemViews.of(Problem.at(place, ProblemCode.NAME_MALFORMED, "Wrong.", "Mend it."));
        assertThat(view.line()).isEqualTo(2);
        assertThat(view.column()).isEqualTo(6);
        assertThat(view.rendered())
                .isEqualTo("job.yaml, line 2, column 6: Wrong. [name-malformed]\n  job: X\n       ^\n  Mend it.");
    }

    @Test
    void aPlaceInARowIsFieldAndValue() {
        ProblemView view = ProblemViews.of(Problem.inField(ProblemCode.TOO_LONG, "name", "Hut", "Too long.", ""));
        assertThat(view.field()).isEqualTo("name");
        assertThat(view.value()).isEqualTo("Hut");
        assertThat(view.line()).isNull();
        assertThat(view.warning()).isFalse();
    }

    @Test
    void aPlaceInAFileIsItsLine() {
        Place place = new Place.InFile("huts.csv", 7);
        assertThat(ProblemViews.of(Problem.at(place, ProblemCode.FILE_MALFORMED, "x.", ""))
                        .line())
                .isEqualTo(7);
        Place setting = new Place.InSetting("port");
        assertThat(ProblemViews.of(Problem.at(setting, ProblemCode.SETTING_MISSING, "x.", ""))
                        .field())
                .isEqualTo("port");
    }

    @Test
    void ofVeryManyTheFirstAreTold() {
        Problem one = Problem.of(ProblemCode.KEY_MISSING, "Missing.", "");
        assertThat(ProblemViews.of(Collections.nCopies(ProblemViews.MOST, one)))
                .hasSize(ProblemViews.MOST)
                .allMatch(view -> view.code().equals("key-missing"));
        assertThat(ProblemViews.of(Collections.nCopies(ProblemViews.MOST + 35, one)))
                .hasSize(ProblemViews.MOST + 1)
                .last()
                .satisfies(view -> {
                    assertThat(view.sentence()).isEqualTo("35 more problems were found.");
                    assertThat(view.warning()).isTrue();
                });
    }
}
