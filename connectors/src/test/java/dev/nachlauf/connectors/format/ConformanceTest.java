package dev.nachlauf.connectors.format;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.connectors.format.delimited.DelimitedFormat;
import dev.nachlauf.connectors.format.fixed.FixedFormat;
import dev.nachlauf.connectors.format.json.JsonFormat;
import dev.nachlauf.connectors.format.json.JsonLinesFormat;
import dev.nachlauf.connectors.format.xml.XmlFormat;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.SourceFormat;
import dev.nachlauf.core.value.Values;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Hard cases as files. Beside each stands what it reads as: the options, the names, then a line per row, with {@code ∅} for
 * null, {@code ⏎} for a line break and {@code !} before the code of a row's problem. A new case is two more files.
 */
class ConformanceTest {
    private static final Path CASES = Path.of("src/test/resources/conformance");
    private static final Map<String, SourceFormat> FORMATS = Map.of(
            "csv", new DelimitedFormat(),
            "fixed", new FixedFormat(),
            "json", new JsonFormat(),
            "jsonl", new JsonLinesFormat(),
            "xml", new XmlFormat());

    static List<String> cases() throws IOException {
        try (Stream<Path> files = Files.list(CASES)) {
            return files.map(file -> file.getFileName().toString())
                    .filter(name -> !name.endsWith(".expected"))
                    .sorted()
                    .toList();
        }
    }

    @ParameterizedTest
    @MethodSource("cases")
    void readsAsExpected(String name) throws IOException {
        String base = name.substring(0, name.lastIndexOf('.'));
        List<String> expected = Files.readAllLines(CASES.resolve(base + ".expected"));
        ReadBack read = ReadBack.of(
                FORMATS.get(name.substring(base.length() + 1)),
                name,
                Files.readAllBytes(CASES.resolve(name)),
                options(expected.getFirst()));
        List<String> found = new ArrayList<>(List.of(String.join(" | ", read.names())));
        read.rows().forEach(row -> found.add(shown(row)));
        assertThat(found).containsExactlyElementsOf(expected.subList(1, expected.size()));
    }

    private static Map<String, String> options(String line) {
        Map<String, String> options = new LinkedHashMap<>();
        for (String option : line.substring("options: ".length()).split("; ")) {
            if (!option.isBlank()) {
                options.put(option.substring(0, option.indexOf('=')), option.substring(option.indexOf('=') + 1));
            }
        }
        return options;
    }

    private static String shown(SourceRow row) {
        if (!row.problems().isEmpty()) {
            return row.problems().stream()
                    .map(problem -> "! " + problem.code().id())
                    .collect(Collectors.joining(" "));
        }
        return Arrays.stream(row.cells())
                .map(cell -> cell == null
                        ? "∅"
                        : String.valueOf(Values.text(cell)).replace("\r\n", "⏎").replace("\n", "⏎"))
                .collect(Collectors.joining(" | "));
    }
}
