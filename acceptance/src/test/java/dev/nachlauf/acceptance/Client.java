package dev.nachlauf.acceptance;

import dev.nachlauf.cli.Nachlauf;
import dev.nachlauf.cli.Surroundings;
import java.io.ByteArrayInputStream;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Map;

/** The real client within the tests' process, where a call takes milliseconds; {@link Programs} starts it as a process. */
final class Client {
    private Client() {}

    /** @param folder what file names are relative to */
    static Result call(Path folder, String input, Map<String, String> variables, String... arguments) {
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        int status = call(folder, input, variables, new PrintWriter(out, true), new PrintWriter(err, true), arguments);
        return new Result(status, out.toString(), err.toString());
    }

    /** What is printed, errors among the rest. */
    static String printed(Path folder, Map<String, String> variables, String... arguments) {
        StringWriter all = new StringWriter();
        PrintWriter both = new PrintWriter(all, true);
        call(folder, "", variables, both, both, arguments);
        return all.toString();
    }

    private static int call(
            Path folder,
            String input,
            Map<String, String> variables,
            PrintWriter out,
            PrintWriter err,
            String... arguments) {
        ByteArrayInputStream bytes = new ByteArrayInputStream(input.getBytes(StandardCharsets.UTF_8));
        return Nachlauf.run(new Surroundings(folder, variables, bytes, out, err), arguments);
    }
}
