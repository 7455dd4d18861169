package dev.nachlauf.cli;

import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/**
 * The commands that a call can be about. Taking all of them apart takes longer than most calls do, so only groups and verbs
 * whose names stand among the words are known at first; whoever needs help, or is misunderstood, gets to know all of them.
 *
 * @param words those of the call; empty where all commands are to be known
 */
record KnownCommands(Set<String> words) {
    /** All commands. */
    static final KnownCommands ALL = new KnownCommands(Set.of());

    private static final Map<String, Supplier<Group>> GROUPS = groups();
    private static final String COMPLETION = "completion";
    private static final Set<String> ASK_FOR_ALL = Set.of("--help", "-h", "--version", "-V", COMPLETION);

    KnownCommands {
        words = Set.copyOf(words);
    }

    /** Those that a call names. */
    static KnownCommands by(String... arguments) {
        List<String> words = List.of(arguments);
        return words.stream().anyMatch(ASK_FOR_ALL::contains) || words.stream().noneMatch(GROUPS::containsKey)
                ? ALL
                : new KnownCommands(new HashSet<>(words));
    }

    /** In the order of the help. */
    private static Map<String, Supplier<Group>> groups() {
        Map<String, Supplier<Group>> groups = new LinkedHashMap<>();
        groups.put("connection", ConnectionCommands::new);
        groups.put("source", SourceCommands::new);
        groups.put("job", JobCommands::new);
        groups.put("crosswalk", CrosswalkCommands::new);
        groups.put("pieces", PiecesCommands::new);
        groups.put("run", RunCommands::new);
        groups.put("record", RecordCommands::new);
        groups.put("rejects", RejectCommands::new);
        groups.put("environment", EnvironmentCommands::new);
        groups.put("token", TokenCommands::new);
        groups.put("secret", SecretCommands::new);
        return groups;
    }

    void addTo(CommandLine client) {
        GROUPS.forEach((name, group) -> {
            if (words.isEmpty() || words.contains(name)) {
                client.addSubcommand(name, group(group.get()));
            }
        });
        if (words.isEmpty()) {
            client.addSubcommand(COMPLETION, new CompletionCommand());
        }
    }

    private CommandLine group(Group group) {
        CommandLine line = new CommandLine(group);
        boolean some = group.verbs().stream().map(KnownCommands::name).anyMatch(words::contains);
        for (Class<? extends Verb> verb : group.verbs()) {
            if (!some || words.contains(name(verb))) {
                line.addSubcommand(verb);
            }
        }
        return line;
    }

    private static String name(Class<? extends Verb> verb) {
        return verb.getAnnotation(Command.class).name();
    }

    /** Whether a command that is misunderstood may be so for want of others; nothing has been done then. */
    boolean mayLack(CommandLine misunderstood) {
        return !words.isEmpty() && !misunderstood.getSubcommands().isEmpty();
    }
}
