package dev.nachlauf.acceptance;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;

/**
 * A page of the documentation that is followed to the letter: blocks that name a file are written to it, and the commands
 * of {@code console} blocks are run in their folder, with what they print under them; {@code sql} blocks change the register.
 */
final class FollowedPage {
    private static final String FENCE = "```";
    private static final Pattern WORD = Pattern.compile("(?:\"[^\"]*\"|[^ \"])+");
    private static final String PROMPT = "$ ";

    private final Installation installation;
    private final Path folder;

    FollowedPage(Installation installation, Path folder) {
        this.installation = installation;
        this.folder = folder;
    }

    /** The page as it would be if each command printed under it what it prints now. */
    String follow(String page) {
        List<String> made = new ArrayList<>();
        List<String> lines = page.lines().toList();
        for (int at = 0; at < lines.size(); at++) {
            made.add(lines.get(at));
            if (!lines.get(at).startsWith(FENCE)) {
                continue;
            }
            int end = at + 1;
            while (!lines.get(end).startsWith(FENCE)) {
                end++;
            }
            List<String> block = lines.subList(at + 1, end);
            String[] words = lines.get(at).substring(FENCE.length()).split(" ");
            if (words[0].equals("console")) {
                block.stream().filter(line -> line.startsWith(PROMPT)).forEach(command -> {
                    made.add(command);
                    made.addAll(output(command.substring(PROMPT.length())));
                });
            } else {
                if (words[0].equals("sql")) {
                    installation.cluster.execute(installation.register, String.join("\n", block));
                }
                if (words.length == 2) {
                    write(words[1], block);
                }
                made.addAll(block);
            }
            made.add(FENCE);
            at = end;
        }
        return String.join("\n", made) + "\n";
    }

    private void write(String file, List<String> lines) {
        try {
            Files.write(folder.resolve(file), lines);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** What a command prints, errors among the rest, without blank ends of lines. */
    private List<String> output(String command) {
        // what stands in double quotes is one word, as in a shell
        String[] words = WORD.matcher(command)
                .results()
                .map(word -> word.group().replace("\"", ""))
                .toArray(String[]::new);
        if (!words[0].equals("nachlauf")) {
            throw new IllegalArgumentException("only the client is followed: " + command);
        }
        String printed = Client.printed(
                folder,
                installation.clientVariables(installation.address()),
                List.of(words).subList(1, words.length).toArray(String[]::new));
        return printed.lines().map(String::stripTrailing).toList();
    }
}
