package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.source.tree.CompilationUnitTree;
import com.sun.source.tree.MethodTree;
import com.sun.source.util.JavacTask;
import com.sun.source.util.SourcePositions;
import com.sun.source.util.TreePathScanner;
import com.sun.source.util.Trees;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javax.tools.JavaCompiler;
import javax.tools.StandardJavaFileManager;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.Test;

/** The habits of this project that a machine can check. Whoever needs an exception lists it here, with its reason. */
class HabitsTest {
    private static final int LONGEST_FILE = 300;
    private static final int LONGEST_METHOD = 40;
    private static final int MOST_IN_A_ROOT = 3;
    private static final List<String> MODULES =
            List.of("api", "core", "connectors", "contract", "standins", "service", "cli");

    private static final String TABLE = "a table: one entry after the other";
    private static final String ONE_SWITCH = "one switch over all forms of a tree";
    private static final String ONE_STORY = "one story that is read from top to bottom";

    private static final Map<String, String> LONG_FILES = Map.ofEntries(
            Map.entry("contract/formula/ExpressionGenerator", ONE_SWITCH),
            Map.entry("core/formula/Checker", ONE_SWITCH),
            Map.entry("core/formula/Compiler", ONE_SWITCH),
            Map.entry("core/formula/ValueParser", ONE_SWITCH),
            Map.entry("core/function/TextFunctions", TABLE));

    private static final Map<String, String> LONG_METHODS = Map.ofEntries(
            Map.entry("connectors/database/mariadb/MariadbSystem.lookUp", ONE_STORY),
            Map.entry("connectors/format/packed/Zip.members", ONE_STORY),
            Map.entry("core/formula/Compiler.closure", ONE_SWITCH),
            Map.entry("core/function/DateFunctions.all", TABLE),
            Map.entry("core/function/NumberFunctions.all", TABLE),
            Map.entry("core/function/PatternFunctions.all", TABLE),
            Map.entry("core/function/TextFunctions.all", TABLE),
            Map.entry("core/record/CellCodec.write", ONE_SWITCH),
            Map.entry("service/run/RunViews.of", TABLE));

    /** Main sources by module-relative name, such as {@code core/formula/Compiler}. */
    private static Map<String, Path> sources() throws IOException {
        Map<String, Path> sources = new TreeMap<>();
        for (String module : MODULES) {
            Path root = Installation.TOP.resolve(module + "/src/main/java/dev/nachlauf");
            try (Stream<Path> files = Files.walk(root)) {
                files.filter(file -> file.toString().endsWith(".java"))
                        .forEach(file -> sources.put(
                                root.relativize(file)
                                        .toString()
                                        .replace(".java", "")
                                        .replace('\\', '/'),
                                file));
            }
        }
        return sources;
    }

    @Test
    void filesStayBelowThreeHundredLines() throws IOException {
        List<String> tooLong = new ArrayList<>();
        for (Map.Entry<String, Path> source : sources().entrySet()) {
            int lines = Files.readAllLines(source.getValue()).size();
            if (lines > LONGEST_FILE) {
                tooLong.add(source.getKey());
            }
        }
        assertThat(tooLong).containsExactlyInAnyOrderElementsOf(LONG_FILES.keySet());
    }

    @Test
    void methodsStayBelowFortyLines() throws IOException {
        assertThat(longMethods()).containsExactlyInAnyOrderElementsOf(LONG_METHODS.keySet());
    }

    @Test
    void aModulesRootHoldsFewTypes() throws IOException {
        Map<String, Long> roots = sources().keySet().stream()
                .filter(name -> name.chars().filter(c -> c == '/').count() == 1)
                .filter(name -> !name.endsWith("package-info") && !name.startsWith("api/") && !name.startsWith("cli/"))
                .collect(Collectors.groupingBy(name -> name.substring(0, name.indexOf('/')), Collectors.counting()));
        assertThat(roots)
                .allSatisfy((module, types) -> assertThat(types).as(module).isLessThanOrEqualTo(MOST_IN_A_ROOT));
    }

    @Test
    void theBuildListsWhatTheProgramsAreMadeOf() {
        String java = Installation.read(Installation.TOP.resolve("target/nachlauf.cdx.json"));
        assertThat(java)
                .contains("\"bomFormat\" : \"CycloneDX\"", "pkg:maven/org.postgresql/postgresql@", "hibernate-core")
                .doesNotContain("junit-jupiter", "springdoc");
        String console = Installation.read(Installation.TOP.resolve("console/target/console.cdx.json"));
        assertThat(console)
                .contains("CycloneDX", "pkg:npm/react@", "pkg:npm/%40codemirror/view@")
                .doesNotContain("pkg:npm/codemirror@");
    }

    private static List<String> longMethods() throws IOException {
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        List<String> found = new ArrayList<>();
        try (StandardJavaFileManager files = compiler.getStandardFileManager(null, null, null)) {
            Map<URI, String> names = new HashMap<>();
            sources().forEach((name, file) -> names.put(file.toUri(), name));
            // all at once: a compiler for each file would take ten times as long
            JavacTask task = (JavacTask) compiler.getTask(
                    null,
                    files,
                    problem -> {},
                    List.of("-proc:none"),
                    null,
                    files.getJavaFileObjectsFromPaths(sources().values()));
            SourcePositions positions = Trees.instance(task).getSourcePositions();
            for (CompilationUnitTree unit : task.parse()) {
                String name =
                        Objects.requireNonNull(names.get(unit.getSourceFile().toUri()), "every file has a name");
                new Methods(unit, positions, name, found).scan(unit, null);
            }
        }
        return found;
    }

    /** Notes the methods of a source that are too long. */
    private static final class Methods extends TreePathScanner<Void, Void> {
        private final CompilationUnitTree unit;
        private final SourcePositions positions;
        private final String source;
        private final List<String> found;

        Methods(CompilationUnitTree unit, SourcePositions positions, String source, List<String> found) {
            this.unit = unit;
            this.positions = positions;
            this.source = source;
            this.found = found;
        }

        @Override
        public Void visitMethod(MethodTree method, Void nothing) {
            long from = line(positions.getStartPosition(unit, method));
            long to = line(positions.getEndPosition(unit, method));
            if (to - from + 1 > LONGEST_METHOD) {
                found.add(source + "." + method.getName());
            }
            return super.visitMethod(method, nothing);
        }

        private long line(long position) {
            return unit.getLineMap().getLineNumber(position);
        }
    }
}
