package dev.nachlauf.service.web;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** What sources say about types and methods in their comments, as plain text. */
final class SourceDocs {
    private static final String COMMENT = "/\\*\\*((?:[^*]++|\\*(?!/))*+)\\*/\\s*";
    private static final String ANNOTATIONS = "(?:@\\w+(?:\\((?:[^()]|\\([^()]*\\))*\\))?\\s*)*";

    private final Path root;

    SourceDocs(Path root) {
        this.root = root;
    }

    /** The classes of a package and those in them. */
    List<Class<?>> classes(String room) {
        try (Stream<Path> files = Files.list(root.resolve(room.replace('.', '/')))) {
            List<Class<?>> classes = new ArrayList<>();
            for (Path file :
                    files.filter(file -> !file.endsWith("package-info.java")).toList()) {
                Class<?> type =
                        Class.forName(room + "." + file.getFileName().toString().replace(".java", ""));
                classes.add(type);
                classes.addAll(List.of(type.getDeclaredClasses()));
            }
            return classes;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (ClassNotFoundException e) {
            throw new IllegalStateException(e);
        }
    }

    private String source(Class<?> type) {
        Class<?> outer = type.getDeclaringClass() == null ? type : type.getDeclaringClass();
        try {
            return Files.readString(root.resolve(outer.getName().replace('.', '/') + ".java"));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private String comment(Class<?> type) {
        Matcher found = Pattern.compile(
                        COMMENT + ANNOTATIONS + "(?:public )?(?:static )?record " + type.getSimpleName() + "\\b")
                .matcher(source(type));
        return found.find() ? found.group(1) : "";
    }

    /** What is said of a record. */
    String type(Class<?> type) {
        return plain(comment(type).split("\\* @param")[0]);
    }

    /** What is said of its components, by name. */
    Map<String, String> components(Class<?> type) {
        Map<String, String> components = new LinkedHashMap<>();
        String[] parts = comment(type).split("\\* @param ");
        for (int i = 1; i < parts.length; i++) {
            String text = plain(parts[i]);
            int space = text.indexOf(' ');
            components.put(text.substring(0, space), text.substring(space + 1));
        }
        return components;
    }

    /** What is said of a method. */
    String method(Class<?> type, String name) {
        Matcher found = Pattern.compile(COMMENT + ANNOTATIONS + "(?:public )?[\\w<>?, ]+ " + name + "\\(")
                .matcher(source(type));
        return found.find() ? plain(found.group(1).split("\\* @")[0]) : "";
    }

    /** The text of a method, from its name to the end of its block. */
    String body(Class<?> type, String name) {
        String source = source(type);
        Matcher found = Pattern.compile("\\n    [\\w<>?, ]+ " + name + "\\(").matcher(source);
        return found.find() ? source.substring(found.end(), source.indexOf("\n    }", found.end())) : "";
    }

    private static String plain(String comment) {
        return comment.replaceAll("(?m)^\\s*\\*", " ")
                .replaceAll("\\{@(?:code|link)\\s+([^}]*)}", "$1")
                .replaceAll("\\s+", " ")
                .strip();
    }

    static String firstSentence(String text) {
        int end = text.indexOf(". ");
        return end < 0 ? text : text.substring(0, end + 1);
    }

    static String behindFirstSentence(String text) {
        return text.substring(firstSentence(text).length()).strip();
    }
}
