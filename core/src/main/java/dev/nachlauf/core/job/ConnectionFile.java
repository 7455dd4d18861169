package dev.nachlauf.core.job;

import dev.nachlauf.core.document.DocumentKind;
import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.document.SettingValue;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.system.FieldMark;
import dev.nachlauf.core.system.Marks;
import dev.nachlauf.core.text.SourceText;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/** Connection file to definition. */
public final class ConnectionFile {
    private static final Pattern NAME = Pattern.compile("[a-z0-9][a-z0-9-]{0,63}");

    private ConnectionFile() {}

    /** The definition; empty when there were problems, all of which are added to {@code problems}. */
    public static Optional<ConnectionDefinition> read(SourceText source, List<Problem> problems) {
        return DocumentKind.CONNECTION.read(source, problems, (root, found) -> definition(root));
    }

    private static ConnectionDefinition definition(Section root) {
        String name = JobFile.name(root, "connection", NAME, "small letters, digits and hyphens");
        String title = root.text("title").orElse(name);
        Placed<String> type = new Placed<>(root.requiredText("type").orElse(""), root.placeOfValue("type"));
        Map<String, String> settings = new LinkedHashMap<>();
        Map<String, Place> places = new LinkedHashMap<>();
        root.section("settings").ifPresent(section -> {
            for (String key : section.keys()) {
                places.put(key, section.placeOf(key));
                SettingValue.read(section, key).ifPresent(value -> settings.put(key, value));
            }
            section.done();
        });
        Marks marks = marks(root);
        root.done();
        return new ConnectionDefinition(name, title, type, settings, places, marks);
    }

    private static Marks marks(Section root) {
        Map<String, Map<String, FieldMark>> marks = new LinkedHashMap<>();
        root.section("marks").ifPresent(recordTypes -> {
            for (String records : recordTypes.keys()) {
                Map<String, FieldMark> fields = new LinkedHashMap<>();
                recordTypes.section(records).ifPresent(section -> {
                    for (String field : section.keys()) {
                        section.section(field).map(ConnectionFile::mark).ifPresent(mark -> fields.put(field, mark));
                    }
                    section.done();
                });
                marks.put(records, fields);
            }
            recordTypes.done();
        });
        return new Marks(marks);
    }

    private static FieldMark mark(Section section) {
        FieldMark mark = new FieldMark(
                Words.oneOf(section, "written", "true", "false").equals("true"),
                Words.flag(section, "sensitive"),
                section.text("label").orElse(""),
                section.text("help").orElse(""));
        section.done();
        return mark;
    }
}
