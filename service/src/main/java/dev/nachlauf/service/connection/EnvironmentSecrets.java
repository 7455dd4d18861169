package dev.nachlauf.service.connection;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Secrets;
import dev.nachlauf.service.NachlaufSettings;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.util.EnumSet;
import java.util.Set;
import java.util.regex.Pattern;
import org.springframework.stereotype.Component;

/**
 * Secrets from environment variables of the service that are named as such, and from files in the folder of secrets. What
 * else the service's account can read is no connection's business.
 */
@Component
class EnvironmentSecrets implements Secrets {
    static final String PREFIX = "NACHLAUF_SECRET_";
    private static final Pattern VARIABLE = Pattern.compile(PREFIX + "[A-Z0-9_]+");
    private static final Pattern FILE = Pattern.compile("[A-Za-z0-9][A-Za-z0-9._-]*");
    private static final Set<PosixFilePermission> OWNER =
            EnumSet.of(PosixFilePermission.OWNER_READ, PosixFilePermission.OWNER_WRITE);

    private final Path folder;

    EnvironmentSecrets(NachlaufSettings settings) {
        this.folder = settings.home().toAbsolutePath().resolve("secrets");
    }

    @Override
    public String resolve(String reference) {
        int colon = reference.indexOf(':');
        String name = reference.substring(colon + 1);
        return reference.startsWith("env:") ? variable(name) : file(name);
    }

    private static String variable(String name) {
        if (!VARIABLE.matcher(name).matches()) {
            throw problem(
                    ProblemCode.SECRET_UNSAFE,
                    "The environment variable " + name + " is not for connections.",
                    "Their secrets are in variables named " + PREFIX + "… only.");
        }
        String value = System.getenv(name);
        if (value == null) {
            throw problem(
                    ProblemCode.SECRET_MISSING,
                    "The environment variable " + name + ", which holds a secret, is not set.",
                    "Set it for the service and start it again.");
        }
        return value;
    }

    private String file(String name) {
        if (!FILE.matcher(name).matches()) {
            throw problem(
                    ProblemCode.SECRET_UNSAFE,
                    "The secret's file " + name + " is not the name of a file.",
                    "Name a file in " + folder + ", without a path.");
        }
        Path path = folder.resolve(name);
        try {
            if (!OWNER.containsAll(Files.getPosixFilePermissions(path))) {
                throw problem(
                        ProblemCode.SECRET_UNSAFE,
                        "The secret's file " + path + " can be read by others.",
                        "Set its mode to 600.");
            }
            return Files.readString(path).strip();
        } catch (IOException e) {
            throw problem(
                    ProblemCode.SECRET_MISSING,
                    "The secret's file " + path + " can't be read.",
                    "Create it with mode 600 for the service's account.");
        }
    }

    private static CannotGoOn problem(ProblemCode code, String sentence, String remedy) {
        return new CannotGoOn(Problem.of(code, sentence, remedy));
    }
}
