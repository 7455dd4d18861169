package dev.nachlauf.service.connection;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Secrets;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.util.EnumSet;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Secrets from environment variables of the service and from files that only its account can read. */
@Component
class EnvironmentSecrets implements Secrets {
    private static final Set<PosixFilePermission> OWNER =
            EnumSet.of(PosixFilePermission.OWNER_READ, PosixFilePermission.OWNER_WRITE);

    @Override
    public String resolve(String reference) {
        int colon = reference.indexOf(':');
        String name = reference.substring(colon + 1);
        return reference.startsWith("env:") ? variable(name) : file(Path.of(name));
    }

    private static String variable(String name) {
        String value = System.getenv(name);
        if (value == null) {
            throw problem(
                    ProblemCode.SECRET_MISSING,
                    "The environment variable " + name + ", which holds a secret, is not set.",
                    "Set it for the service and start it again.");
        }
        return value;
    }

    private static String file(Path path) {
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
