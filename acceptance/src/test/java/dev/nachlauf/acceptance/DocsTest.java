package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.crosswalk.CrosswalkFile;
import dev.nachlauf.core.job.ConnectionFile;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.job.PiecesFile;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.text.SourceText;
import java.io.IOException;
import java.lang.reflect.Method;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What the docs show is true: examples are read, the function table is the program's own, links lead somewhere. */
class DocsTest {
    private static final Pattern YAML = Pattern.compile("```yaml\\n(.*?)```", Pattern.DOTALL);
    private static final Pattern LINK = Pattern.compile("]\\(([^)#:]+)\\)");

    private static String doc(String name) {
        return Installation.read(Installation.TOP.resolve(name));
    }

    @Test
    void theExamplesOfDocumentsAreSound() {
        List<String> examples = YAML.matcher(doc("docs/job-file.md"))
                .results()
                .map(match -> match.group(1))
                .toList();
        assertThat(examples).hasSize(4);
        for (String example : examples) {
            List<Problem> problems = new ArrayList<>();
            SourceText source = new SourceText("example.yaml", example);
            if (example.contains("\njob:")) {
                assertThat(JobFile.read(source, problems)).isPresent();
            } else {
                assertThat(ConnectionFile.read(source, problems)).isPresent();
            }
            assertThat(problems).isEmpty();
        }
    }

    @Test
    void theStepsOfTheDocsAreSound() {
        List<String> examples = YAML.matcher(doc("docs/steps.md"))
                .results()
                .map(match -> match.group(1))
                .toList();
        assertThat(examples).hasSizeGreaterThan(8);
        for (String example : examples) {
            List<Problem> problems = new ArrayList<>();
            String job = "nachlauf: 1\njob: example\nread: { connection: c, file: f }\nsteps:\n" + example.indent(2)
                    + "write: { connection: c, records: r, action: upsert, key: [k], map: { k: k } }\n";
            assertThat(JobFile.read(new SourceText("steps.md", job), problems)).isPresent();
            assertThat(problems).isEmpty();
        }
    }

    @Test
    void theCrosswalksAndPiecesOfTheDocsAreSound() {
        List<String> examples = YAML.matcher(doc("docs/crosswalks.md"))
                .results()
                .map(match -> match.group(1))
                .toList();
        List<Problem> problems = new ArrayList<>();
        assertThat(CrosswalkFile.read(new SourceText("crosswalk.yaml", examples.get(0)), problems))
                .isPresent();
        assertThat(PiecesFile.read(new SourceText("pieces.yaml", examples.get(1)), problems))
                .isPresent();
        assertThat(problems).isEmpty();
    }

    /** Run by tools/docs it writes that part instead. */
    @Test
    void theTableOfFunctionsIsTheProgramsOwn() throws IOException {
        Path file = Installation.TOP.resolve("docs/formulas.md");
        String renewed = FunctionReference.renew(Files.readString(file));
        if (Boolean.getBoolean("docs.write")) {
            Files.writeString(file, renewed);
        }
        assertThat(file).hasContent(renewed);
    }

    @Test
    void theDemosDataAreWhatTheirGeneratorMakes(@TempDir Path classes, @TempDir Path made) throws Exception {
        List<String> generators = List.of("Workbooks", "Tills", "SupplyOrders", "TrailSurvey");
        List<String> compile = new ArrayList<>(List.of("-proc:none", "-d", classes.toString()));
        generators.forEach(generator -> compile.add(
                Installation.TOP.resolve("demo-data/" + generator + ".java").toString()));
        assertThat(ToolProvider.getSystemJavaCompiler().run(null, null, null, compile.toArray(String[]::new)))
                .isZero();
        try (URLClassLoader programs =
                new URLClassLoader(new URL[] {classes.toUri().toURL()})) {
            for (String generator : generators) {
                Method main = programs.loadClass(generator).getMethod("main", String[].class);
                main.setAccessible(true);
                main.invoke(null, (Object) new String[] {made.toString()});
            }
        }
        Path kept = Installation.TOP.resolve("demo-data/files");
        try (Stream<Path> files = Files.list(made)) {
            List<Path> all = files.toList();
            assertThat(all).hasSize(8);
            for (Path file : all) {
                Path same = kept.resolve(file.getFileName());
                assertThat(file)
                        .hasSameBinaryContentAs(
                                Files.exists(same) ? same : kept.resolve("drop").resolve(file.getFileName()));
            }
        }
    }

    @Test
    void linksLeadSomewhere() throws IOException {
        List<Path> pages = new ArrayList<>(List.of(Installation.TOP.resolve("README.md")));
        try (Stream<Path> docs = Files.list(Installation.TOP.resolve("docs"))) {
            docs.filter(file -> file.toString().endsWith(".md")).forEach(pages::add);
        }
        assertThat(pages).hasSizeGreaterThan(10);
        for (Path page : pages) {
            for (MatchResult link :
                    LINK.matcher(Installation.read(page)).results().toList()) {
                assertThat(page.resolveSibling(link.group(1)))
                        .as(page.toString())
                        .exists();
            }
        }
    }
}
